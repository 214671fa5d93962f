import type { Reading } from "../../api/client";
import type { Settings } from "./piece";

/** A step that a reading proposes, and what it would better, in words. */
export interface Advice {
  name: string;
  why: string;
  kind: string;
  settings: Settings;
}

const LEAST_LEAN = 0.15 / 360;
const round = (value: number) => Number(value.toFixed(5));

/** What can be done in one click for a picture that is read like this: level it, cut it where its edges agree best. */
export function adviceOf(reading: Reading | undefined): Advice[] {
  if (!reading) return [];
  const found: Advice[] = [];
  if (reading.tilt !== null && Math.abs(reading.tilt) >= LEAST_LEAN) {
    const lean = Math.abs(reading.tilt * 360).toFixed(1);
    found.push({ name: "Level it", why: `leans ${lean}°`, kind: "level", settings: { angle: round(-reading.tilt) } });
  }
  if (reading.loop) {
    const { left, right, before, after } = reading.loop;
    found.push({
      name: "Best loop",
      why: `edges ${Math.round(before)} → ${Math.round(after)}`,
      kind: "crop",
      settings: { left: round(left), right: round(right), top: 0, bottom: 1 },
    });
  }
  return found;
}
