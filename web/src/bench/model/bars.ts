import type { components } from "../../api/generated";
import { clamp, type Placed, type Point, round } from "./geometry";

/** A bar of a slices step: where it was cut out (shares of the height and width), and where it went. */
export type Bar = components["schemas"]["Bar"];

export const PLAIN_BAR: Bar = { top: 0.45, height: 0.05, drop: 0, left: 0, width: 1, shift: 0, stretch: 1, locked: false };
const LEAST = 0.001;
const fixed = (value: number) => round(value, 5);

/** Where a bar lies on the stage now. */
export function barBox(bar: Bar, placed: Placed): { x: number; y: number; width: number; height: number } {
  const width = bar.width * bar.stretch;
  const left = bar.left + bar.width / 2 - width / 2 + bar.shift;
  return {
    x: placed.left + left * placed.width,
    y: placed.top + (bar.top + bar.drop) * placed.height,
    width: width * placed.width,
    height: bar.height * placed.height,
  };
}

/** The bar moved by a way on the stage: sideways, and down only where it is free of the level. */
export const movedBar = (bar: Bar, way: Point, placed: Placed, free: boolean): Bar => ({
  ...bar,
  shift: fixed(clamp(bar.shift + way.x / placed.width, -2, 2)),
  drop: free ? fixed(clamp(bar.drop + way.y / placed.height, -1, 1)) : bar.drop,
});

/** The bar with one of its edges moved by a way on the stage; the opposite edge stays. */
export function edgedBar(bar: Bar, edge: "left" | "right" | "top" | "bottom", way: Point, placed: Placed): Bar {
  const [dx, dy] = [way.x / placed.width / bar.stretch, way.y / placed.height];
  if (edge === "left") {
    const by = clamp(dx, -1 - bar.left, bar.width - LEAST);
    return { ...bar, left: fixed(bar.left + by), width: fixed(clamp(bar.width - by, LEAST, 1)) };
  }
  if (edge === "right") return { ...bar, width: fixed(clamp(bar.width + dx, LEAST, 1)) };
  if (edge === "top") {
    const by = clamp(dy, -1 - bar.top, bar.height - LEAST);
    return { ...bar, top: fixed(bar.top + by), height: fixed(clamp(bar.height - by, LEAST, 1)) };
  }
  return { ...bar, height: fixed(clamp(bar.height + dy, LEAST, 1)) };
}

/** Two bars in place of one: across the middle of its height, or of its width where it is nearly square or tall. */
export function splitBar(bar: Bar, ratio: number): [Bar, Bar] {
  if (bar.width * ratio > 8 * bar.height || bar.width * ratio < bar.height) {
    const width = fixed(bar.width / 2);
    // Each half stretches about its own middle; so that they still meet, their shifts differ.
    const apart = ((bar.stretch - 1) * bar.width) / 4;
    return [
      { ...bar, width, shift: fixed(bar.shift - apart) },
      { ...bar, left: fixed(bar.left + width), width, shift: fixed(bar.shift + apart) },
    ];
  }
  const height = fixed(bar.height / 2);
  return [
    { ...bar, height },
    { ...bar, top: fixed(bar.top + height), height },
  ];
}

/** A bar where two corners on the stage were drawn, not moved yet. */
export function drawnBar(a: Point, b: Point, placed: Placed): Bar | null {
  const [left, right] = [Math.min(a.x, b.x), Math.max(a.x, b.x)].map((x) => clamp((x - placed.left) / placed.width, 0, 1));
  const [top, bottom] = [Math.min(a.y, b.y), Math.max(a.y, b.y)].map((y) => clamp((y - placed.top) / placed.height, 0, 1));
  const [width, height] = [(right ?? 0) - (left ?? 0), (bottom ?? 0) - (top ?? 0)];
  if (width < 0.005 || height < LEAST) return null;
  return { ...PLAIN_BAR, left: fixed(left ?? 0), top: fixed(top ?? 0), width: fixed(width), height: fixed(height) };
}
