import { describe, expect, it } from "vitest";
import { movedStroke, NEW_TOUCH, type Stroke, shownThere, sourceFor, sourceOf, storedPoints } from "./touch";

const stroke = (source: Partial<Stroke["source"]>, points = [[0.5, 0, 1]]): Stroke => ({
  mode: "clone",
  points,
  outline: [],
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
        const there = sourceOf(stroke(source, [[from.x, from.y, 1]]), from);
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
  expect(storedPoints(even)).toEqual([
    [0, 0, 1],
    [0.95, 0, 1],
  ]);
  expect(storedPoints(even.map((point, n) => ({ ...point, pressure: n / 20 })))).toHaveLength(20);
});

it("moves a stroke as it is", () => {
  expect(movedStroke(stroke({}), { x: 0.1, y: -0.1 }).points).toEqual([[0.6, -0.1, 1]]);
});
