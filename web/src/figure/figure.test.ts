import { describe, expect, it } from "vitest";
import type { Where } from "../bench/model/piece";
import { cutOf, foundBy, movedCorner, NEW_FIGURE, painted, withCorner, withHint, withoutCorner } from "./figure";

const SQUARE: Where = {
  feather: 0.01,
  invert: false,
  shapes: [
    {
      kind: "polygon",
      points: [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ],
    },
  ] as Where["shapes"],
};
const points = (where: Where) => where.shapes[0]?.points;

describe("an outline by its points", () => {
  it("is moved, gets points where it is nearest, and keeps three", () => {
    expect(points(movedCorner(SQUARE, 0, 1, { x: 2, y: -0.5 }))).toEqual([
      [0, 0],
      [2, -0.5],
      [1, 1],
      [0, 1],
    ]);
    expect(points(withCorner(SQUARE, { x: 0.4, y: 1.1 }))).toEqual([
      [0, 0],
      [1, 0],
      [1, 1],
      [0.4, 1.1],
      [0, 1],
    ]);
    const three = withoutCorner(SQUARE, 0, 0);
    expect(points(three)).toEqual([
      [1, 0],
      [1, 1],
      [0, 1],
    ]);
    expect(withoutCorner(three, 0, 0)).toBe(three);
  });
});

describe("strokes", () => {
  it("lead the search, or are painted as they are", () => {
    expect(withHint({ box: [0, 0, 1, 1], hints: [] }, [{ x: 0.12345, y: 1 }], 0.02, false).hints).toEqual([
      { points: [[0.1235, 1]], radius: 0.02, add: false },
    ]);
    const off = painted(SQUARE, [{ x: 0, y: 0 }], 0.1, false);
    expect(off.shapes[1]).toMatchObject({ kind: "stroke", join: "subtract", radius: 0.1 });
    expect(painted(null, [{ x: 0, y: 0 }], 0.1, true).shapes).toHaveLength(1);
  });
  it("that were painted exactly stay when others lead the search, and are gone with a new box", () => {
    const before = { ...NEW_FIGURE, outline: painted(SQUARE, [{ x: 2, y: 2 }], 0.1, true) };
    const search = withHint({ box: [0, 0, 1, 1] }, [{ x: 0.5, y: 0.5 }], 0.2, false);
    expect(foundBy(search, SQUARE, before).outline?.shapes).toMatchObject([
      { kind: "polygon" },
      { kind: "stroke", points: [[2, 2]], join: "add" },
      { kind: "stroke", points: [[0.5, 0.5]], join: "subtract" },
    ]);
    expect(foundBy(search, SQUARE, { ...before, outline: SQUARE }).outline?.shapes).toHaveLength(1);
    expect(foundBy({ box: [0, 0, 1, 1] }, SQUARE, before).outline?.shapes).toHaveLength(1);
  });
  it("are no cut before there is an outline", () => {
    expect(cutOf("a.jpg", NEW_FIGURE)).toBeNull();
    expect(cutOf("a.jpg", { ...NEW_FIGURE, outline: SQUARE })).toMatchObject({ photo: "a.jpg", fringe: 0.8 });
  });
});
