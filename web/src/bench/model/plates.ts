import type { Point } from "./geometry";

/** How a plate of a channel split is moved. */
export interface Plate {
  x: number;
  y: number;
  scale: number;
  turn: number;
  shear: number;
}

export const plateOf = (value: (part: string) => number): Plate => ({
  x: value("x"),
  y: value("y"),
  scale: value("scale"),
  turn: value("turn"),
  shear: value("shear"),
});

/** Where a point of the picture is seen on a plate: leaned, scaled, turned about the middle, then moved, as the core does it. */
export function plateShown({ x, y, scale, turn, shear }: Plate, point: Point): Point {
  const [across, down] = [point.x - shear * point.y, point.y];
  const angle = 2 * Math.PI * turn;
  return {
    x: x + scale * (across * Math.cos(angle) - down * Math.sin(angle)),
    y: y + scale * (across * Math.sin(angle) + down * Math.cos(angle)),
  };
}
