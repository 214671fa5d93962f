import { fromScreen, type Placed } from "./geometry";

/** A part of a picture, in shares of its width and height. */
export interface Part {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

export const WHOLE: Part = { left: 0, top: 0, right: 1, bottom: 1 };
/** Parts begin and end on lines, so that a picture moved a little shows the same one. */
const LINES = 16;
/** Room around what is seen, in shares of it. */
const AROUND = 0.1;
/** Where more of the picture than this is seen, all of it is made. */
const MOST = 0.6;

export const sameParts = (a: Part | null, b: Part | null): boolean => a === b || (!!a && !!b && JSON.stringify(a) === JSON.stringify(b));

/** The part of a picture that is seen in a room of the stage, and a little more; null where all of it may as well be made. */
export function partInView(box: Placed, room: { width: number; height: number }): Part | null {
  const corners = [
    [0, 0],
    [1, 0],
    [0, 1],
    [1, 1],
  ].map(([x = 0, y = 0]) => {
    const at = fromScreen(box, { x: x * room.width, y: y * room.height });
    return { x: (at.x - box.left) / box.width, y: (at.y - box.top) / box.height };
  });
  const [left, right] = lines(corners.map(({ x }) => x));
  const [top, bottom] = lines(corners.map(({ y }) => y));
  return (right - left) * (bottom - top) > MOST ? null : { left, top, right, bottom };
}

function lines(values: number[]): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const more = AROUND * (high - low);
  const first = Math.min(Math.max(Math.floor((low - more) * LINES), 0), LINES - 1);
  const last = Math.min(Math.max(Math.ceil((high + more) * LINES), first + 1), LINES);
  return [first / LINES, last / LINES];
}
