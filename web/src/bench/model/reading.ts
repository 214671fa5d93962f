import type { Reading } from "../../api/client";
import type { Settings } from "./piece";

/** A step that a reading proposes, and what it would better, in words. */
export interface Advice {
  name: string;
  why: string;
  /** What the kind of step is to others. */
  role: "levels" | "crops";
  settings: Settings;
  /** The share of the width it keeps, where it cuts. */
  cut?: number;
}

const LEAST_LEAN = 0.15 / 360;
const round = (value: number) => Number(value.toFixed(5));

/** What can be done in one click for a picture that is read like this: level it, cut it where its edges agree best. */
export function adviceOf(reading: Reading | undefined): Advice[] {
  if (!reading) return [];
  const found: Advice[] = [];
  if (reading.tilt !== null && Math.abs(reading.tilt) >= LEAST_LEAN) {
    const lean = Math.abs(reading.tilt * 360).toFixed(1);
    found.push({ name: "Level it", why: `tilted by ${lean}°`, role: "levels", settings: { angle: round(-reading.tilt) } });
  }
  if (reading.loop) {
    const { left, right } = reading.loop;
    found.push({
      name: `Trim to ${Math.round((right - left) * 100)} % of the width`,
      why: "its ends match better",
      role: "crops",
      settings: { left: round(left), right: round(right), top: 0, bottom: 1 },
      cut: right - left,
    });
  }
  return found;
}

/**
 * The reach at which a ring that keeps shapes shows its horizon as large as before, when only `cut` of the width is left: a height v from the
 * top lies at radius reach · exp(-2π v / ratio). Null for other rings, which do not shrink.
 */
export function keptReach(ring: Settings, reading: Pick<Reading, "ratio" | "horizon">, cut: number): number | null {
  if (ring.spread !== "shape") return null;
  const { ratio, horizon } = reading;
  const reach = Number(ring.reach ?? 1) * Math.exp(2 * Math.PI * (horizon ?? 0.5) * (1 / (ratio * cut) - 1 / ratio));
  return Math.min(4, Number(reach.toFixed(4)));
}
