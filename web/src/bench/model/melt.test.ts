import { describe, expect, it } from "vitest";
import { changedWhileRunning, inForce, keysOf, withKey } from "./melt";

describe("keys of a melt", () => {
  it("join at one round and stay in order", () => {
    const keys = withKey(withKey(withKey([], 40, "push", 0.02), 12, "heading", 0.25), 40, "hold", 0.1);
    expect(keys).toEqual([
      { round: 12, heading: 0.25 },
      { round: 40, push: 0.02, hold: 0.1 },
    ]);
  });
  it("hold from their round on", () => {
    const settings = {
      push: 0.01,
      heading: 0.5,
      keys: [
        { round: 12, heading: 0.25 },
        { round: 40, push: 0.02 },
      ],
    };
    expect(keysOf(settings)).toHaveLength(2);
    expect(inForce(settings, 11)).toMatchObject({ push: 0.01, heading: 0.5 });
    expect(inForce(settings, 12)).toMatchObject({ push: 0.01, heading: 0.25 });
    expect(inForce(settings, 400)).toMatchObject({ push: 0.02, heading: 0.25 });
  });
  it("are what the hand sets while it runs, and nothing else is", () => {
    const settings = { push: 0.01, heading: 0.5, rounds: 12, keys: [{ round: 13, hold: 0.1 }] };
    expect(changedWhileRunning(settings, 12, { heading: 0.25, push: 0.02 })).toEqual({
      keys: [{ round: 13, hold: 0.1, heading: 0.25, push: 0.02 }],
    });
    expect(changedWhileRunning(settings, 12, { key: "hue" })).toEqual({ key: "hue" });
    expect(changedWhileRunning({ rounds: 3 }, 3, { key: "hue" })).toEqual({ key: "hue" });
  });
});
