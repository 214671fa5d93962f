/** A file's size in words. */
export const weight = (bytes: number): string =>
  bytes > 900_000 ? `${(bytes / 1e6).toFixed(1)} MB` : `${Math.max(1, Math.round(bytes / 1000))} kB`;
