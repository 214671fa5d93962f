const NOTCH = 120;
const BURST = 250;

/**
 * Tells a mouse's wheel from two fingers on a pad, by its steps: a wheel goes up and down by whole notches. What a burst of events begins as
 * it goes on being, since fingers happen to move by as much as a notch too.
 */
export function wheelTeller(): (event: WheelEvent) => boolean {
  let last = Number.NEGATIVE_INFINITY;
  let isWheel = true;
  return (event) => {
    if (event.timeStamp - last > BURST) {
      const { wheelDeltaY = 0 } = event as { wheelDeltaY?: number };
      const isNotch = event.deltaX === 0 && wheelDeltaY !== 0 && wheelDeltaY % NOTCH === 0;
      // Fingers are told in thirds where they are told as a wheel at all.
      isWheel = event.deltaMode !== 0 || (isNotch && wheelDeltaY !== -3 * event.deltaY);
    }
    last = event.timeStamp;
    return isWheel;
  };
}

/** How much larger a wheel event makes what is under the pointer: a notch by a sixth; two fingers spread on a pad by as much as they spread. */
export const wheelFactor = (event: WheelEvent, isWheel: boolean): number => Math.exp(-event.deltaY * (isWheel ? 0.0016 : 0.01));
