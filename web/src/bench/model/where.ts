import type { ShapeKind } from "../../api/client";
import type { Point } from "./geometry";
import type { Shape, Where } from "./piece";

export const NOWHERE: Where = { shapes: [], feather: 0, invert: false };

const far = (a: Point, b: Point, p: Point): number => {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const length = Math.hypot(dx, dy);
  return length < 1e-9 ? Math.hypot(p.x - a.x, p.y - a.y) : Math.abs(dx * (p.y - a.y) - dy * (p.x - a.x)) / length;
};

/** Leave out points of a drawn line that lie nearly straight between others (Douglas and Peucker). */
export function simplified(points: Point[], tolerance: number): Point[] {
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < 3) return points;
  let [most, at] = [0, 0];
  points.forEach((p, n) => {
    const off = far(first, last, p);
    if (off > most) [most, at] = [off, n];
  });
  if (most <= tolerance) return [first, last];
  return [...simplified(points.slice(0, at + 1), tolerance).slice(0, -1), ...simplified(points.slice(at), tolerance)];
}

/** Points as the file holds them. */
export const toPairs = (points: Point[]): number[][] => points.map(({ x, y }) => [Number(x.toFixed(4)), Number(y.toFixed(4))]);

/** The box of two corners as an upright shape. */
export const boxOf = (a: Point, b: Point): Pick<Shape, "x" | "y" | "rx" | "ry"> => ({
  x: Number(((a.x + b.x) / 2).toFixed(4)),
  y: Number(((a.y + b.y) / 2).toFixed(4)),
  rx: Number((Math.abs(a.x - b.x) / 2).toFixed(4)),
  ry: Number((Math.abs(a.y - b.y) / 2).toFixed(4)),
});

/** A shape as the catalogue begins it. */
export const newShape = (kind: ShapeKind): Shape => ({
  kind: kind.key,
  ...Object.fromEntries(kind.settings.map((setting) => [setting.name, setting.default as number])),
});

export const addShape = (where: Where | null, shape: Shape): Where => ({
  ...(where ?? NOWHERE),
  shapes: [...(where?.shapes ?? []), shape],
});

/** How a painted or erased stroke joins a where: in one that is turned inside out, painting takes away from what lies outside. */
export const joinOf = (where: Where | null, erases: boolean): "add" | "subtract" =>
  erases === (where?.invert ?? false) ? "add" : "subtract";

/** The where with a stroke erased from it. Where there is none yet the step acts everywhere: then everywhere but there. */
export const erased = (where: Where | null, stroke: Shape): Where =>
  where?.shapes.length || where?.invert
    ? addShape(where, stroke)
    : { ...(where ?? NOWHERE), invert: true, shapes: [{ ...stroke, join: "add" }] };

export const changeShape = (where: Where, index: number, change: Partial<Shape>): Where => ({
  ...where,
  shapes: where.shapes.map((shape, n) => (n === index ? ({ ...shape, ...change } as Shape) : shape)),
});

/** The where without one shape; none at all when it was the last and nothing is inverted. */
export const withoutShape = (where: Where, index: number): Where | null => {
  const shapes = where.shapes.filter((_, n) => n !== index);
  return shapes.length || where.invert ? { ...where, shapes } : null;
};
