import { describe, expect, it } from "vitest";
import type { PieceDocument, Settings } from "./piece";
import { turnedBetween } from "./turning";

const source = { kind: "photo", photo: "a.jpg" };
const tone = { id: "t", kind: "tone", settings: {} };
const piece = (kind: string, settings: Settings, more: object = {}, layers: object[] = []): PieceDocument =>
  ({
    caracol: 3,
    layers: [{ id: "a", source, steps: [{ id: "s", kind, settings, ...more }, tone] }, ...layers],
  }) as unknown as PieceDocument;

describe("what turns as it is", () => {
  it("is a turned picture, and a ring whose seam is turned, about its centre", () => {
    expect(turnedBetween(piece("turn", { angle: 0.1 }), piece("turn", { angle: 0.35 }))).toEqual({
      turns: expect.closeTo(0.25),
      x: 0,
      y: 0,
    });
    const ring = (seam: number) => piece("ring", { seam, x: 0.2, y: -0.1, reach: 1.2 });
    expect(turnedBetween(ring(0.5), ring(0.4))).toEqual({ turns: expect.closeTo(-0.1), x: 0.2, y: -0.1 });
  });
  it("is nothing else", () => {
    const ring = piece("ring", { seam: 0.5 });
    expect(turnedBetween(ring, ring)).toBeNull();
    expect(turnedBetween(ring, piece("ring", { seam: 0.4, reach: 2 }))).toBeNull();
    expect(turnedBetween(piece("ring", { seam: null }), piece("ring", { seam: 0.4 }))).toBeNull();
    expect(turnedBetween(piece("ring", { seam: 0.5, amount: 0.5 }), piece("ring", { seam: 0.4, amount: 0.5 }))).toBeNull();
    expect(turnedBetween(piece("twirl", { turns: 0.5 }), piece("twirl", { turns: 0.4 }))).toBeNull();
    expect(turnedBetween(piece("turn", { angle: 0 }, { strength: 0.5 }), piece("turn", { angle: 0.1 }, { strength: 0.5 }))).toBeNull();
    const other = [{ id: "b", source, steps: [] }];
    expect(turnedBetween(piece("turn", { angle: 0 }, {}, other), piece("turn", { angle: 0.1 }, {}, other))).toBeNull();
  });
});
