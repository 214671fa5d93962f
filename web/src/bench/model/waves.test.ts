import { expect, it } from "vitest";
import { draw, waveAt } from "./waves";

it("draws as the core does", () => {
  // From caracol.core.draws: draw(1, 0), draw(1, 1), draw(999, 3, 2).
  expect([draw(1, 0), draw(1, 1), draw(999, 3, 2)].map((n) => n.toFixed(12))).toEqual([
    "0.368189515652",
    "0.943564230865",
    "0.859622893720",
  ]);
});

it("adds up waves as the core does", () => {
  const plain = { length: 0.5, height: 0.06, number: 1, variety: 0.5, phase: 0, seed: 1, form: "round" };
  expect(waveAt(plain, 0.125)).toBeCloseTo(0.06);
  expect(waveAt({ ...plain, form: "pointed" }, 0.375)).toBeCloseTo(-0.06);
  expect(waveAt({ ...plain, form: "stepped" }, 0.3)).toBeCloseTo(-0.06);
  expect(waveAt({ ...plain, number: 3, seed: 4, variety: 0.8 }, 0.3).toFixed(6)).toBe("0.006313");
});
