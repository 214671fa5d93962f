import { expect, it } from "vitest";
import { curveThrough } from "./curves";

const AT = [0.05, 0.2, 0.45, 0.7, 0.95];
const SWAY = [
  [0, 0],
  [0.35, 0.25],
  [0.65, -0.25],
  [1, 0],
];
const STEEP = [
  [0.5, 1.2],
  [0.1, 0.3],
  [0.9, 1.3],
  [0.4, 0.5],
];

it("draws curves as the core does", () => {
  // From caracol.core.geometry.curves.curve_table at these places.
  const drawn = (points: number[][], smooth: boolean) => AT.map(curveThrough(points, smooth));
  const close = (found: number[], known: number[]) => found.forEach((value, k) => void expect(value).toBeCloseTo(known[k] as number, 3));
  close(drawn(SWAY, true), [0.0401, 0.1778, 0.1204, -0.2405, -0.0401]);
  close(drawn(STEEP, true), [0.3, 0.3501, 0.8602, 1.2672, 1.3]);
  close(drawn(SWAY, false), [0.0357, 0.1429, 0.0833, -0.2143, -0.0357]);
  close(drawn(STEEP, false), [0.3, 0.3667, 0.85, 1.25, 1.3]);
  close(drawn([[0.3, 0.7]], true), [0.7, 0.7, 0.7, 0.7, 0.7]);
});
