import type { Setting } from "../../api/client";
import type { Point } from "./geometry";
import type { Shape, Where } from "./piece";

export const NOWHERE: Where = { shapes: [], feather: 0, invert: false };

const number = (name: string, label: string, unit: string, minimum: number, maximum: number, fallback: number, help: string): Setting => ({
  name,
  label,
  unit,
  type: "number",
  choices: null,
  minimum,
  maximum,
  step: unit === "turns" ? 0.0025 : 0.005,
  default: fallback,
  auto: null,
  when: null,
  nullable: false,
  help,
});

interface ShapeKind {
  label: string;
  /** What it is when it is added. */
  make: Omit<Shape, "kind">;
  settings: Setting[];
}

const place = [
  number("x", "Across", "units", -4, 4, 0, "Its middle, right positive."),
  number("y", "Down", "units", -4, 4, 0, "Its middle, down positive."),
];
const upright = [
  ...place,
  number("rx", "Half width", "units", 0.01, 4, 0.5, "From the middle to the side."),
  number("ry", "Half height", "units", 0.01, 4, 0.5, "From the middle to the top."),
  number("turn", "Turn", "turns", -1, 1, 0, "Clockwise positive."),
];

/** The shapes of a where, by kind: their names, and the numbers a panel shows for each. */
export const SHAPES: Record<string, ShapeKind> = {
  rectangle: { label: "Rectangle", make: { x: 0, y: 0, rx: 0.5, ry: 0.4, turn: 0 }, settings: upright },
  ellipse: { label: "Ellipse", make: { x: 0, y: 0, rx: 0.5, ry: 0.5, turn: 0 }, settings: upright },
  polygon: { label: "Lasso", make: {}, settings: [] },
  stroke: {
    label: "Painted",
    make: {},
    settings: [
      number("radius", "Radius", "units", 0.005, 1, 0.12, "From the stroke's middle to its edge."),
      number("hardness", "Hardness", "share", 0, 1, 0.5, "1 has a hard edge, 0 fades from the middle."),
    ],
  },
  bands: {
    label: "Bands",
    make: { spacing: 0.3, thickness: 0.5, softness: 0, heading: 0, offset: 0, unevenness: 0, seed: 1 },
    settings: [
      number("spacing", "Spacing", "units", 0.01, 2, 0.3, "From one band to the next."),
      number("thickness", "Thickness", "share", 0, 1, 0.5, "How much of the spacing a band fills."),
      number("softness", "Softness", "share", 0, 1, 0, "How softly a band begins and ends."),
      number("heading", "Heading", "turns", -1, 1, 0, "Across the bands, clockwise from the top."),
      number("offset", "Offset", "units", -2, 2, 0, "Moves all bands along the heading."),
      number("unevenness", "Unevenness", "share", 0, 1, 0, "How much bands differ in place and thickness."),
      number("seed", "Draw", "count", 0, 999, 1, "Which draw of the unevenness."),
    ],
  },
  linear: {
    label: "Fade",
    make: { x: 0, y: 0, heading: 0.5, reach: 0.5 },
    settings: [
      ...place,
      number("heading", "Heading", "turns", -1, 1, 0.5, "Towards where it is whole, clockwise from the top."),
      number("reach", "Reach", "units", 0.01, 4, 0.5, "From half to whole."),
    ],
  },
  radial: {
    label: "Round fade",
    make: { x: 0, y: 0, inner: 0.2, outer: 0.9 },
    settings: [
      ...place,
      number("inner", "Inner", "units", 0, 4, 0.2, "Whole up to here."),
      number("outer", "Outer", "units", 0, 4, 0.9, "Nothing from here on."),
    ],
  },
  light: {
    label: "Range of light",
    make: { low: 0.6, high: 1, softness: 0.1 },
    settings: [
      number("low", "From", "share", 0, 1, 0.6, "The darkest that counts."),
      number("high", "To", "share", 0, 1, 1, "The lightest that counts."),
      number("softness", "Softness", "share", 0, 1, 0.1, "How softly the range ends."),
    ],
  },
  hue: {
    label: "Range of hue",
    make: { centre: 0.58, width: 0.15, softness: 0.08 },
    settings: [
      number("centre", "Hue", "turns", 0, 1, 0.58, "0 is red, a third round green, two thirds blue."),
      number("width", "Width", "share", 0, 1, 0.15, "How much of the circle of hues counts."),
      number("softness", "Softness", "share", 0, 1, 0.08, "How softly the range ends."),
    ],
  },
};

/** Shapes that are drawn with the pointer, not put down whole. */
export const DRAWN = new Set(["polygon", "stroke"]);

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
