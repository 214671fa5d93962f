import { describe, expect, it } from "vitest";
import type { Reading } from "../../api/client";
import { adviceOf } from "./reading";

const reading = (part: Partial<Reading>) => ({ tilt: null, loop: null, ...part }) as Reading;

describe("advice from a reading", () => {
  it("levels against the lean, and leaves small leans alone", () => {
    expect(adviceOf(reading({ tilt: 2.3 / 360 }))).toMatchObject([
      { name: "Level it", why: "tilted by 2.3°", settings: { angle: -0.00639 } },
    ]);
    expect(adviceOf(reading({ tilt: 0.1 / 360 }))).toEqual([]);
  });

  it("cuts where the edges agree best", () => {
    const [loop] = adviceOf(reading({ loop: { left: 0.1, right: 0.8, before: 39.4, after: 75.7 } }));
    expect(loop).toMatchObject({ role: "crops", name: "Trim to 70 % of the width", settings: { left: 0.1, right: 0.8 } });
  });

  it("has none without a reading", () => expect(adviceOf(undefined)).toEqual([]));
});
