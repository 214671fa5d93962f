import { describe, expect, it } from "vitest";
import { type Bar, barBox, drawnBar, edgedBar, movedBar, PLAIN_BAR, splitBar } from "./bars";

const placed = { left: 100, top: 50, width: 400, height: 200 };
const bar: Bar = { ...PLAIN_BAR, top: 0.25, height: 0.1, left: 0.2, width: 0.5, shift: 0.1, drop: 0.05 };

describe("bars", () => {
  it("lie where they went", () => {
    expect(barBox(bar, placed)).toEqual({ x: 100 + 0.3 * 400, y: 50 + 0.3 * 200, width: 200, height: 20 });
    const wide = barBox({ ...bar, stretch: 2 }, placed);
    expect(wide.width).toBe(400);
    expect(wide.x + wide.width / 2).toBe(100 + 0.55 * 400);
  });
  it("stay level unless they are free", () => {
    expect(movedBar(bar, { x: 40, y: 20 }, placed, false)).toMatchObject({ shift: 0.2, drop: 0.05 });
    expect(movedBar(bar, { x: 40, y: 20 }, placed, true)).toMatchObject({ shift: 0.2, drop: 0.15 });
  });
  it("keep the opposite edge where one is dragged", () => {
    const left = edgedBar(bar, "left", { x: 40, y: 0 }, placed);
    expect(left.left + left.width).toBeCloseTo(0.7);
    expect(left.left).toBeCloseTo(0.3);
    expect(edgedBar(bar, "bottom", { x: 0, y: -4000 }, placed).height).toBe(0.001);
  });
  it("split into two that show the same", () => {
    for (const one of [bar, { ...bar, stretch: 1.5 }, { ...bar, width: 0.1 }]) {
      const [a, b] = splitBar(one, 2).map((half) => barBox(half, placed));
      const whole = barBox(one, placed);
      expect((a?.width ?? 0) * (a?.height ?? 0) + (b?.width ?? 0) * (b?.height ?? 0)).toBeCloseTo(whole.width * whole.height, 3);
      expect(a?.x).toBeCloseTo(whole.x, 3);
      expect((b?.x ?? 0) + (b?.width ?? 0)).toBeCloseTo(whole.x + whole.width, 3);
    }
  });
  it("are drawn between two corners, and not by a click", () => {
    expect(drawnBar({ x: 300, y: 150 }, { x: 200, y: 100 }, placed)).toMatchObject({
      left: 0.25,
      top: 0.25,
      width: 0.25,
      height: 0.25,
      shift: 0,
    });
    expect(drawnBar({ x: 300, y: 150 }, { x: 301, y: 150 }, placed)).toBeNull();
  });
});
