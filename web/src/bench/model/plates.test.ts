import { describe, expect, it } from "vitest";
import { type Plate, plateShown } from "./plates";

const STILL: Plate = { x: 0, y: 0, scale: 1, turn: 0, shear: 0 };

describe("a plate's points", () => {
  it("lie where the core moves them: leaned right at the top, larger, clockwise, then aside", () => {
    expect(plateShown(STILL, { x: 0.3, y: -0.4 })).toEqual({ x: 0.3, y: -0.4 });
    expect(plateShown({ ...STILL, shear: 0.5 }, { x: 0, y: -1 })).toEqual({ x: 0.5, y: -1 });
    expect(plateShown({ ...STILL, scale: 2, x: 0.1 }, { x: 0.3, y: -0.4 }).x).toBeCloseTo(0.7);
    const turned = plateShown({ ...STILL, turn: 0.25 }, { x: 0, y: -1 });
    expect(turned.x).toBeCloseTo(1);
    expect(turned.y).toBeCloseTo(0);
  });
});
