import simplify from "simplify-js";
import type { ShapeKind } from "../../api/client";
import type { Point } from "./geometry";
import type { Shape, Where } from "./piece";

export const NOWHERE: Where = { shapes: [], feather: 0, invert: false };

/** Leave out points of a drawn line that lie nearly straight between others. */
export const simplified = (points: Point[], tolerance: number): Point[] => simplify(points, tolerance, true);

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
