/** A time in words: seconds, then minutes. */
export const inTime = (seconds: number): string =>
  seconds < 90 ? `${Math.max(1, Math.ceil(seconds))} s` : `${Math.ceil(seconds / 60)} min`;
