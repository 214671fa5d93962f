import type { Cut } from "../api/client";
import type { Point } from "../bench/model/geometry";
import type { Shape, Where } from "../bench/model/piece";

/** What is drawn with on the photo. */
export type Tool = "box" | "add" | "remove" | "points";

/** A figure as it is being outlined. */
export interface Figure {
  search: Cut["search"];
  outline: Where | null;
  hair: number;
  fringe: number;
}

export const NEW_FIGURE: Figure = { search: null, outline: null, hair: 0.004, fringe: 0.8 };
export const FEATHER = 0.004;
export const BRUSH = { usual: 0.03, least: 0.004, most: 0.3 };

/** The figure as the server is told of it; null before there is an outline. */
export const cutOf = (photo: string, figure: Figure): Cut | null =>
  figure.outline ? { photo, outline: figure.outline, hair: figure.hair, fringe: figure.fringe, search: figure.search ?? null } : null;

const pairs = (points: Point[]): number[][] => points.map(({ x, y }) => [Number(x.toFixed(4)), Number(y.toFixed(4))]);

/** The search with one stroke more. */
export function withHint(
  search: NonNullable<Figure["search"]>,
  points: Point[],
  radius: number,
  add: boolean,
): NonNullable<Figure["search"]> {
  return { ...search, hints: [...(search.hints ?? []), { points: pairs(points), radius, add }] };
}

/** The outline with a stroke painted onto it, or off it, exactly as it was drawn. */
export function painted(outline: Where | null, points: Point[], radius: number, add: boolean): Where {
  const stroke = { kind: "stroke", points: pairs(points), radius, hardness: 0.9, join: add ? "add" : "subtract" } as Shape;
  const shapes = outline?.shapes ?? [];
  return { shapes: [...shapes, stroke], feather: outline?.feather ?? FEATHER, invert: false };
}

/** What a search found. Led by strokes it is a correction: what was painted exactly before stays on it, under the newest stroke. */
export function foundBy(search: NonNullable<Figure["search"]>, found: Where, before: Figure): Partial<Figure> {
  const newest = search.hints?.at(-1);
  const strokes = newest ? (before.outline?.shapes ?? []).filter((shape) => shape.kind === "stroke") : [];
  const outline = { ...found, shapes: [...found.shapes, ...strokes] };
  if (!newest || !strokes.length) return { search, outline };
  const points = newest.points.map(([x = 0, y = 0]) => ({ x, y }));
  return { search, outline: painted(outline, points, newest.radius, newest.add ?? true) };
}

const pointsOf = (shape: Shape): number[][] => (shape.points as number[][] | undefined) ?? [];

/** The outline with a point of one of its polygons moved. */
export function movedCorner(outline: Where, shape: number, n: number, to: Point): Where {
  const moved = pointsOf(outline.shapes[shape] as Shape).map((point, k) =>
    k === n ? [Number(to.x.toFixed(4)), Number(to.y.toFixed(4))] : point,
  );
  return { ...outline, shapes: outline.shapes.map((one, k) => (k === shape ? { ...one, points: moved } : one)) };
}

/** The outline without a point; three stay. */
export function withoutCorner(outline: Where, shape: number, n: number): Where {
  const points = pointsOf(outline.shapes[shape] as Shape);
  if (points.length <= 3) return outline;
  const left = points.filter((_, k) => k !== n);
  return { ...outline, shapes: outline.shapes.map((one, k) => (k === shape ? { ...one, points: left } : one)) };
}

/** The outline with a point more on the edge that lies nearest to a place. */
export function withCorner(outline: Where, at: Point): Where {
  let best = { far: Number.POSITIVE_INFINITY, shape: -1, n: 0 };
  outline.shapes.forEach((shape, k) => {
    if (shape.kind !== "polygon") return;
    const points = pointsOf(shape);
    points.forEach(([ax = 0, ay = 0], n) => {
      const [bx = 0, by = 0] = points[(n + 1) % points.length] ?? [];
      const long = (bx - ax) ** 2 + (by - ay) ** 2 || 1;
      const t = Math.min(1, Math.max(0, ((at.x - ax) * (bx - ax) + (at.y - ay) * (by - ay)) / long));
      const far = Math.hypot(at.x - ax - t * (bx - ax), at.y - ay - t * (by - ay));
      if (far < best.far) best = { far, shape: k, n };
    });
  });
  if (best.shape < 0) return outline;
  const points = pointsOf(outline.shapes[best.shape] as Shape);
  if (points.length >= 500) return outline;
  const next = [...points.slice(0, best.n + 1), [Number(at.x.toFixed(4)), Number(at.y.toFixed(4))], ...points.slice(best.n + 1)];
  return { ...outline, shapes: outline.shapes.map((one, k) => (k === best.shape ? { ...one, points: next } : one)) };
}
