import { type Placed, type Point, perUnit, polar } from "./geometry";
import { distinct, freshIds, freshLayerIds, type Layer, type PieceDocument, type Settings, stepsOf, withSteps } from "./piece";

/** Where a cut is pulled to: a share of the height from the top (on a ring: from the outside), and how far from the join, in widths. */
export type Pull = [number, number];

/** The document with a layer rolled by half, by a step of this kind, right after a step, so that the join of its edges lies in the middle. */
export function rolledAfter(document: PieceDocument, layer: string, step: string, kind: string): PieceDocument {
  const steps = stepsOf(document, layer);
  const at = steps.findIndex((one) => one.id === step) + 1;
  const [id = ""] = freshIds(document, 1);
  const roll = { id, on: true, kind, settings: { across: 0.5 } };
  return at ? withSteps(document, [...steps.slice(0, at), roll, ...steps.slice(at)], layer) : document;
}

/** Where things along a join lie in the frame, and back. */
export interface JoinLine {
  /** The point at a share of the join's length, so many widths from it. */
  point: (v: number, at: number) => Point;
  /** The other way round. */
  place: (point: Point) => { v: number; at: number };
}

/** The join of left and right as it lies on the picture: in its middle, or along both edges (then the left one is meant). */
export function edgeLine(placed: Placed, width: number, inMiddle: boolean): JoinLine {
  const half = { x: placed.width / 2 / perUnit(placed), y: placed.height / 2 / perUnit(placed) };
  const join = inMiddle ? 0 : -half.x;
  const band = width * 2 * half.x;
  return {
    point: (v, at) => ({ x: join + at * band, y: (2 * v - 1) * half.y }),
    place: ({ x, y }) => ({ v: (y / half.y + 1) / 2, at: (x - join) / band }),
  };
}

/** The join along a ray of a ring, from the farthest corner of its frame inwards. */
export function rayLine(placed: Placed, settings: Settings, width: number): JoinLine {
  const half = { x: placed.width / 2 / perUnit(placed), y: placed.height / 2 / perUnit(placed) };
  const centre = { x: Number(settings.x ?? 0), y: Number(settings.y ?? 0) };
  const ray = Number(settings.ray ?? 0.5);
  const far = Math.hypot(Math.abs(centre.x) + half.x, Math.abs(centre.y) + half.y);
  return {
    point: (v, at) => polar(centre, ray + at * width, far * (1 - v)),
    place: ({ x, y }) => {
      const turns = Math.atan2(x - centre.x, centre.y - y) / (2 * Math.PI) - ray;
      return { v: 1 - Math.hypot(x - centre.x, y - centre.y) / far, at: (turns - Math.round(turns)) / width };
    },
  };
}

/** The reach with which a ring covers its whole frame; null where it does already. */
export function reachedOver(ring: Settings): number | null {
  const ratio = Number(ring.ratio ?? 1);
  const far = Math.hypot(Math.max(ratio, 1) + Math.abs(Number(ring.x ?? 0)), Math.max(1 / ratio, 1) + Math.abs(Number(ring.y ?? 0)));
  return far > Number(ring.reach ?? 1) + 0.001 ? Math.min(4, Math.ceil(far * 1000) / 1000) : null;
}

/** A layer that shows all below it once more, turned a little about a ring's middle by a step of the kind that twirls. */
export function overTheSeam(document: PieceDocument, centre: Point, kind: string): Layer {
  const [id = "layer"] = freshLayerIds(document, 1);
  const turned = { fall: "even", turns: 1 / 60, reach: 4, ...centre };
  return {
    id,
    name: distinct(document, "Over the seam"),
    source: { kind: "below" },
    opacity: 0.5,
    steps: [{ id: "turned", on: true, kind, settings: turned }],
  };
}
