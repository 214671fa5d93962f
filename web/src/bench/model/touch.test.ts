import { describe, expect, it } from "vitest";
import type { Point } from "./geometry";
import {
  movedStroke,
  NEW_TOUCH,
  ownTurn,
  packed,
  pointsOf,
  type Stroke,
  shownThere,
  sourceFor,
  sourceOf,
  storedLine,
  storedOutline,
  UNDRAWN,
  unpacked,
  withSource,
} from "./touch";

const stroke = (source: Partial<Stroke["source"]>, at: Point = { x: 0.5, y: 0 }): Stroke => ({
  mode: "clone",
  ...UNDRAWN,
  line: packed([at]),
  radius: 0.1,
  hardness: 0.5,
  opacity: 1,
  colour: null,
  source: { dx: 0, dy: 0, turn: 0, scale: 1, about: null, ...source },
  on: true,
});

describe("the source of a stroke", () => {
  it("is shown where the stroke begins, whatever it is turned and scaled by", () => {
    for (const ring of [null, { x: 0.1, y: -0.2 }]) {
      for (const [turn, scale] of [
        [0, 1],
        [0.1, 2],
        [-0.3, 0.5],
      ] as const) {
        const [anchor, from] = [
          { x: 0.4, y: 0.3 },
          { x: -0.5, y: 0.6 },
        ];
        const source = sourceFor({ ...NEW_TOUCH, turn, scale }, anchor, from, ring);
        const there = sourceOf(stroke(source, from), from);
        expect(there.x).toBeCloseTo(anchor.x, 3);
        expect(there.y).toBeCloseTo(anchor.y, 3);
      }
    }
  });

  it("turns round a ring's middle: what stood on top arrives at the right, a quarter turn clockwise", () => {
    const source = sourceFor(NEW_TOUCH, { x: 0, y: -0.5 }, { x: 0.5, y: 0 }, { x: 0, y: 0 });
    expect(source.turn).toBeCloseTo(0.25, 5);
    expect([source.dx, source.dy].map(Math.abs).every((part) => part < 1e-4)).toBe(true);
    expect(source.about).toEqual([0, 0]);
  });

  it("lies under the stroke when the picture is laid there", () => {
    const placed = { left: 10, top: 20, width: 400, height: 200 };
    expect(shownThere(stroke({ dx: 0.5, turn: 0.25, scale: 2 }), placed)).toBe(
      "translate(260 120) rotate(90) scale(2) translate(-310 -120)",
    );
  });
});

it("stores a straight line by its ends, and every point where the pen pressed harder", () => {
  const even = Array.from({ length: 20 }, (_, n) => ({ x: n / 20, y: 0, pressure: 1 }));
  expect(storedLine(even)).toEqual({ line: [0, 0, 95_000, 0], pressure: [], outline: [] });
  const pressed = storedLine(even.map((point, n) => ({ ...point, pressure: n / 20 })));
  expect(unpacked(pressed.line)).toHaveLength(20);
  expect(pressed.pressure.slice(0, 3)).toEqual([0, 0.05, 0.1]);
  expect(storedLine(even.map((point) => ({ ...point, pressure: 0.5 }))).pressure).toEqual([0.5, 0.5]);
});

it("moves a stroke as it is", () => {
  expect(movedStroke(stroke({}), { x: 0.1, y: -0.1 }).line).toEqual([60_000, -10_000]);
  const patch = { ...stroke({}), line: [], outline: packed([{ x: 0, y: 0 }, { x: 1, y: 0 }, { x: 0, y: 1 }]) }; // biome-ignore format: one thing
  expect(pointsOf(movedStroke(patch, { x: 0.25, y: 0 }))).toEqual([{ x: 0.25, y: 0 }, { x: 1.25, y: 0 }, { x: 0.25, y: 1 }]); // biome-ignore format: one thing
});

it("stores points as the core does: each by how far it lies from the one before, and loses nothing of a hundred-thousandth", () => {
  const points = Array.from({ length: 300 }, (_, n) => ({ x: Math.sin(n) * 19.99999, y: Math.cos(n * 7) }));
  unpacked(packed(points)).forEach((point, n) => {
    expect(Math.abs(point.x - (points[n]?.x ?? 0))).toBeLessThan(0.51e-5);
    expect(Math.abs(point.y - (points[n]?.y ?? 0))).toBeLessThan(0.51e-5);
  });
  expect(packed([{ x: 0.5, y: -0.25 }, { x: 0.50001, y: 0 }])).toEqual([50_000, -25_000, 1, 25_000]); // biome-ignore format: one thing
  expect(storedOutline([{ x: 0, y: 0 }, { x: 1, y: 0 }])).toBeNull(); // biome-ignore format: one thing
});

describe("turning and scaling the source of a stroke on a ring", () => {
  const from = { x: 0.5, y: 0 };
  const anchor = { x: 0, y: -0.4 };
  const round = stroke(sourceFor(NEW_TOUCH, anchor, from, { x: 0, y: 0 }), from);

  it("begins at 0, whatever the ring turns it by", () => {
    expect(round.source.turn).toBeCloseTo(0.25, 4);
    expect(ownTurn(round)).toBeCloseTo(0, 4);
    expect(ownTurn(stroke({ turn: 0.1 }, from))).toBeCloseTo(0.1, 5);
  });

  it("is about the place it is taken from", () => {
    for (const change of [{ turn: 0.2 }, { scale: 2 }, { turn: -0.1, scale: 0.5 }]) {
      const changed = { ...round, source: withSource(round, change) };
      expect(sourceOf(changed, from).x).toBeCloseTo(anchor.x, 4);
      expect(sourceOf(changed, from).y).toBeCloseTo(anchor.y, 4);
      expect(ownTurn(changed)).toBeCloseTo(change.turn ?? 0, 3);
      expect(changed.source.scale).toBe(change.scale ?? 1);
    }
  });
});
