import { clamp, round } from "./geometry";

/** A curve of tones: points (old, new), 0…1, from left to right. */
export type ToneCurve = number[][];

export const STRAIGHT: ToneCurve = [
  [0, 0],
  [1, 1],
];
export const CURVES = ["all", "red", "green", "blue", "light"] as const;
export type CurveName = (typeof CURVES)[number];
/** Two points of a curve lie at least so far from each other, and there are so many at most: as the core says. */
const APART = 0.004;
const MOST = 16;

const at = (curve: ToneCurve, n: number): [number, number] => [curve[n]?.[0] ?? 0, curve[n]?.[1] ?? 0];

/** The curve with a point moved, held between its neighbours. */
export function movedPoint(curve: ToneCurve, n: number, old: number, value: number): ToneCurve {
  const least = n > 0 ? at(curve, n - 1)[0] + APART : 0;
  const most = n < curve.length - 1 ? at(curve, n + 1)[0] - APART : 1;
  const moved = [round(clamp(old, least, most)), round(clamp(value, 0, 1))];
  return curve.map((point, k) => (k === n ? moved : point));
}

/** The curve with one point more, and which it is; one that is there already where the new one would lie too near. Null where it is full. */
export function withPoint(curve: ToneCurve, old: number, value: number): { curve: ToneCurve; n: number } | null {
  const near = curve.findIndex((point) => Math.abs((point[0] ?? 0) - old) < 3 * APART);
  if (near >= 0) return { curve, n: near };
  if (curve.length >= MOST) return null;
  const next = [...curve, [round(clamp(old, 0, 1)), round(clamp(value, 0, 1))]].sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0));
  return { curve: next, n: next.findIndex((point) => point[0] === round(clamp(old, 0, 1))) };
}

/** The curve without a point; the last two stay. */
export const withoutPoint = (curve: ToneCurve, n: number): ToneCurve => (curve.length > 2 ? curve.filter((_, k) => k !== n) : curve);

/** Where the widest gap of a curve is, for a point that is added by a key. */
export function widestGap(curve: ToneCurve): number {
  const gaps = curve.slice(1).map((point, k) => (point[0] ?? 0) - at(curve, k)[0]);
  const k = gaps.indexOf(Math.max(...gaps));
  return at(curve, k)[0] + (gaps[k] ?? 0) / 2;
}

export const isStraight = (curve: ToneCurve | undefined): boolean => !curve || JSON.stringify(curve) === JSON.stringify(STRAIGHT);

/** The value that a gamma brings to the middle, between black and white: where the middle's marker stands. */
export const middleOf = (black: number, white: number, gamma: number): number => black + (white - black) * 0.5 ** gamma;

/** The gamma that brings a value to the middle. */
export function gammaFor(black: number, white: number, middle: number): number {
  const share = clamp((middle - black) / Math.max(white - black, 0.005), 0.0312, 0.871);
  return round(clamp(Math.log(share) / Math.log(0.5), 0.2, 5), 3);
}

/** The key light of a colour `#rrggbb`, and its parts, 0…1. */
export function partsOf(colour: string): Record<CurveName, number> {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map((n) => Number.parseInt(colour.slice(n, n + 2), 16) / 255);
  const light = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
  return { all: light, red, green, blue, light };
}

/** A stop of a gradient. */
export interface Stop {
  at: number;
  colour: string;
}

const inOrder = (stops: Stop[]): Stop[] => [...stops].sort((a, b) => a.at - b.at);

/** The colour of a gradient at a place. */
export function colourOf(stops: Stop[], place: number): string {
  const sorted = inOrder(stops);
  const next = sorted.findIndex((stop) => stop.at > place);
  const after = sorted[next];
  const before = sorted[next < 0 ? sorted.length - 1 : next - 1];
  if (!before) return sorted[0]?.colour ?? "";
  if (!after) return before.colour;
  const share = (place - before.at) / (after.at - before.at);
  const part = (n: number) => {
    const [a, b] = [before, after].map((stop) => Number.parseInt(stop.colour.slice(n, n + 2), 16)) as [number, number];
    return Math.round(a + (b - a) * share)
      .toString(16)
      .padStart(2, "0");
  };
  return `#${part(1)}${part(3)}${part(5)}`;
}

/** What CSS draws a gradient with. */
export const cssOf = (stops: Stop[]): string =>
  `linear-gradient(90deg, ${inOrder(stops)
    .map((stop) => `${stop.colour} ${round(stop.at * 100, 2)}%`)
    .join(", ")})`;

/** The same colours from the other end. */
export const turnedOver = (stops: Stop[]): Stop[] =>
  inOrder(stops)
    .map((stop) => ({ ...stop, at: round(1 - stop.at, 3) }))
    .reverse();

/** The same colours at even places. */
export const evenly = (stops: Stop[]): Stop[] =>
  inOrder(stops).map((stop, n) => ({ ...stop, at: round(n / Math.max(stops.length - 1, 1), 3) }));

/** The same colours, each at the place of its own light: light and dark stay where they are in the picture. */
export const byLight = (stops: Stop[]): Stop[] => inOrder(stops.map((stop) => ({ ...stop, at: round(partsOf(stop.colour).light, 3) })));
