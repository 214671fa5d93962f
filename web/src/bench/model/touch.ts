import type { components } from "../../api/generated";
import { colours } from "../../theme/colours";
import { type Placed, type Point, perUnit, round, toStage, turnsOf } from "./geometry";
import { simplified } from "./where";

/** One stored stroke: a line with pressures, or the outline of a patch, as whole numbers (`packed`). */
export type Stroke = components["schemas"]["Stroke"];
export type StrokeSource = components["schemas"]["StrokeSource"];
export type TouchMode = Stroke["mode"];

/** What the next stroke is made with. */
export interface Touch {
  mode: TouchMode;
  /** Areas are outlined instead of painted. */
  patch: boolean;
  radius: number;
  hardness: number;
  opacity: number;
  colour: string;
  /** Where the source was taken; and what lies between it and the strokes, once the first was made. */
  anchor: Point | null;
  kept: StrokeSource | null;
  /** The source stays where it was taken, or goes along from stroke to stroke. */
  fixed: boolean;
  turn: number;
  scale: number;
  /** By itself it turns round the middle of the ring, so that what stood at another angle arrives upright. */
  round: boolean;
}

export const NEW_TOUCH: Touch = {
  mode: "clone",
  patch: false,
  radius: 0.08,
  hardness: 0.5,
  opacity: 1,
  colour: colours.surroundMiddle,
  anchor: null,
  kept: null,
  fixed: false,
  turn: 0,
  scale: 1,
  round: true,
};

export const MODES: { value: TouchMode; label: string; help: string }[] = [
  { value: "clone", label: "Clone", help: "Copies another place as it is." },
  { value: "heal", label: "Heal", help: "Takes texture from another place, in the tones of this one." },
  { value: "fill-in", label: "Fill in", help: "Continues what is around it. Needs no source." },
  { value: "colour", label: "Colour", help: "One colour." },
  { value: "erase", label: "Erase", help: "Brings back the picture from before this step." },
];

/** Whether strokes of this mode need a source. */
export const takesSource = (mode: TouchMode): boolean => mode === "clone" || mode === "heal";

const turned = ({ x, y }: Point, turns: number): Point => {
  const [c, s] = [Math.cos(2 * Math.PI * turns), Math.sin(2 * Math.PI * turns)];
  return { x: x * c - y * s, y: x * s + y * c };
};

/** What of a stroke says where it is. */
export type Drawn = Pick<Stroke, "line" | "pressure" | "outline">;
/** Nothing drawn yet. */
export const UNDRAWN: Drawn = { line: [], pressure: [], outline: [] };

/** Parts of a unit in which lines are stored. */
const GRAIN = 100_000;

/** Points as whole numbers: x and y of the first, then how far right and down each next one lies. */
export function packed(points: Point[]): number[] {
  const grains = points.map(({ x, y }) => [Math.round(x * GRAIN), Math.round(y * GRAIN)] as const);
  return grains.flatMap(([x, y], n) => [x - (grains[n - 1]?.[0] ?? 0), y - (grains[n - 1]?.[1] ?? 0)]);
}

/** The points that whole numbers stand for. */
export function unpacked(line: number[]): Point[] {
  const points: Point[] = [];
  let [x, y] = [0, 0];
  for (let n = 0; n + 1 < line.length; n += 2) {
    x += line[n] ?? 0;
    y += line[n + 1] ?? 0;
    points.push({ x: x / GRAIN, y: y / GRAIN });
  }
  return points;
}

/** The points of a stroke's line, or of its outline. */
export const pointsOf = ({ line, outline }: Drawn): Point[] => unpacked(line.length ? line : outline);

/** Where the colour of a point comes from. */
export function sourceOf(stroke: Drawn & Pick<Stroke, "source">, at: Point): Point {
  const { dx, dy, turn, scale } = stroke.source;
  const about = middleOf(stroke);
  const way = turned({ x: at.x - about.x, y: at.y - about.y }, -turn);
  return { x: about.x + way.x / scale + dx, y: about.y + way.y / scale + dy };
}

/** The point a stroke's source is turned and scaled about. */
export function middleOf(stroke: Drawn & Pick<Stroke, "source">): Point {
  const [x, y] = stroke.source.about ?? [];
  return x !== undefined && y !== undefined ? { x, y } : startOf(stroke);
}

/** The source of a stroke that begins at `from` and shows there what lies at `anchor`; round a ring's middle where there is one. */
export function sourceFor(touch: Touch, anchor: Point, from: Point, ring: Point | null): StrokeSource {
  const about = touch.round ? ring : null;
  const middle = about ?? from;
  const around = about
    ? turnsOf({ x: from.x - about.x, y: from.y - about.y }) - turnsOf({ x: anchor.x - about.x, y: anchor.y - about.y })
    : 0;
  const turn = round(around - Math.round(around) + touch.turn, 5);
  const way = turned({ x: from.x - middle.x, y: from.y - middle.y }, -turn);
  return {
    dx: round(anchor.x - middle.x - way.x / touch.scale, 5),
    dy: round(anchor.y - middle.y - way.y / touch.scale, 5),
    turn,
    scale: touch.scale,
    about: about ? [about.x, about.y] : null,
  };
}

/** Where a stroke begins. */
const startOf = (stroke: Drawn): Point => unpacked((stroke.line.length ? stroke.line : stroke.outline).slice(0, 2))[0] ?? { x: 0, y: 0 };

const near = (turns: number): number => turns - Math.round(turns);

/** How far a stroke's source is turned by itself, round the middle of a ring; 0 for one that goes round none. */
function turnedByRing(stroke: Drawn & Pick<Stroke, "source">): number {
  const [about, from] = [middleOf(stroke), startOf(stroke)];
  const source = sourceOf(stroke, from);
  const ways = [from, source].map((point) => ({ x: point.x - about.x, y: point.y - about.y }));
  if (!stroke.source.about || ways.some(({ x, y }) => Math.hypot(x, y) < 1e-4)) return 0;
  const [own = 0, other = 0] = ways.map(turnsOf);
  return near(own - other);
}

/** The turn of a stroke's source besides what a ring turns it by. */
export const ownTurn = (stroke: Drawn & Pick<Stroke, "source">): number => round(near(stroke.source.turn - turnedByRing(stroke)), 5);

/** A stroke's source turned or scaled about the place it is taken from: what is shown where the stroke begins stays. */
export function withSource(stroke: Drawn & Pick<Stroke, "source">, change: { turn?: number; scale?: number }): StrokeSource {
  const [about, from] = [middleOf(stroke), startOf(stroke)];
  const kept = sourceOf(stroke, from);
  const turn = change.turn === undefined ? stroke.source.turn : round(near(turnedByRing(stroke) + change.turn), 5);
  const scale = change.scale ?? stroke.source.scale;
  const way = turned({ x: from.x - about.x, y: from.y - about.y }, -turn);
  return { ...stroke.source, turn, scale, dx: round(kept.x - about.x - way.x / scale, 5), dy: round(kept.y - about.y - way.y / scale, 5) };
}

const FINE = 0.0015;

/** A stroke as it is stored: points that lie nearly straight between others are left out. */
export function storedLine(points: (Point & { pressure: number })[]): Drawn {
  const kept = new Set<Point>(simplified(points, FINE));
  const even = points.every((point) => point.pressure === points[0]?.pressure);
  const left = points.filter((point) => !even || kept.has(point));
  const full = left.every((point) => point.pressure === 1);
  return { ...UNDRAWN, line: packed(left), pressure: full ? [] : left.map((point) => round(point.pressure, 3)) };
}

/** The outline of a patch as it is stored; nothing where it is no outline. */
export function storedOutline(points: Point[]): Drawn | null {
  const left = simplified(points, FINE);
  return left.length < 3 ? null : { ...UNDRAWN, outline: packed(left) };
}

/** The stroke moved, with its source or without. */
export function movedStroke(stroke: Stroke, way: Point): Stroke {
  const moved = ([x, y, ...rest]: number[]) =>
    x === undefined || y === undefined ? [] : [x + Math.round(way.x * GRAIN), y + Math.round(way.y * GRAIN), ...rest];
  return { ...stroke, line: moved(stroke.line), outline: moved(stroke.outline) };
}

/** The line of a stroke on the stage. */
export function lineOf(stroke: Drawn, placed: Placed): string {
  const points = pointsOf(stroke);
  const at = (point: Point) => {
    const spot = toStage(placed, point);
    return `${spot.x.toFixed(1)} ${spot.y.toFixed(1)}`;
  };
  // A single point is a line of no length, which a round brush shows as a dot.
  const line = points.length === 1 ? [...points, ...points] : points;
  return `M${line.map(at).join("L")}${stroke.outline.length ? "Z" : ""}`;
}

/** What lays the picture, as it is on the stage, so that its source lies under the stroke: an SVG transform. */
export function shownThere(stroke: Drawn & Pick<Stroke, "source">, placed: Placed): string {
  const { dx, dy, turn, scale } = stroke.source;
  const about = middleOf(stroke);
  const a = toStage(placed, about);
  const from = toStage(placed, { x: about.x + dx, y: about.y + dy });
  return `translate(${a.x} ${a.y}) rotate(${turn * 360}) scale(${scale}) translate(${-from.x} ${-from.y})`;
}

/** Stage pixels of a stroke's radius. */
export const radiusOn = (placed: Placed, radius: number): number => radius * perUnit(placed);
