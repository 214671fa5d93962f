import { describe, expect, it } from "vitest";
import { partInView } from "./inView";

const ROOM = { width: 800, height: 600 };

describe("the part of a picture that is seen", () => {
  it("is all of it where most of it is seen", () => {
    expect(partInView({ left: 10, top: 10, width: 780, height: 580 }, ROOM)).toBeNull();
  });
  it("holds every corner of the room, on lines, with a little around", () => {
    const part = partInView({ left: -1600, top: -1200, width: 4000, height: 3000 }, ROOM);
    // 0.4 … 0.6 of both sides is seen; a tenth of that is added, and lines lie at sixteenths.
    expect(part).toEqual({ left: 6 / 16, top: 6 / 16, right: 10 / 16, bottom: 10 / 16 });
    expect(partInView({ left: -1606, top: -1204, width: 4000, height: 3000 }, ROOM)).toEqual(part);
  });
  it("turns with the view", () => {
    // A quarter turn: the room's width lies along the picture's height.
    const part = partInView({ left: -1600, top: -1200, width: 4000, height: 3000, turn: 0.25 }, ROOM);
    expect((part?.bottom ?? 0) - (part?.top ?? 0)).toBeGreaterThan(800 / 3000);
    expect((part?.right ?? 0) - (part?.left ?? 0)).toBeGreaterThan(600 / 4000);
    expect((part?.right ?? 0) - (part?.left ?? 0)).toBeLessThan(0.3);
  });
  it("is never empty, even where the picture was moved out of sight", () => {
    const part = partInView({ left: 5000, top: 9000, width: 4000, height: 3000 }, ROOM);
    expect(part).toEqual({ left: 0, top: 0, right: 1 / 16, bottom: 1 / 16 });
  });
});
