import { describe, expect, it } from "vitest";
import { changedAtRest, changedWhileRunning, inForce, keysOf, withKey } from "./melt";

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
  it("are what a change at rest changes, where they are what is seen", () => {
    const settings = {
      push: 0.01,
      heading: 0.5,
      keys: [
        { round: 13, push: 0.02, hold: 0.1 },
        { round: 40, push: 0.05 },
      ],
    };
    expect(changedAtRest(settings, 20, { push: 0.03 })).toEqual({
      keys: [
        { round: 13, push: 0.03, hold: 0.1 },
        { round: 40, push: 0.05 },
      ],
    });
    expect(changedAtRest(settings, 12, { push: 0.03, heading: 0.1 })).toEqual({ push: 0.03, heading: 0.1 });
    expect(changedAtRest(settings, 60, { heading: 0.1 })).toEqual({ heading: 0.1 });
    for (const round of [5, 20, 60]) {
      const change = { push: 0.07, heading: 0.2, hold: 0.3 };
      const after = { ...settings, ...changedAtRest(settings, round, change) };
      expect(inForce(after, round)).toMatchObject(change);
    }
  });
});
