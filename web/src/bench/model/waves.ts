/** The core's draws and waves (draws.py, wave.py), so that a trace can be drawn while the hand moves. A test keeps both alike. */

const MASK = (1n << 64n) - 1n;

/** A number 0…1 for a seed and a place in the plan. */
export function draw(seed: number, ...places: number[]): number {
  let state = BigInt(seed) & MASK;
  for (const place of [0, ...places]) {
    state = (state + 0x9e3779b97f4a7c15n * BigInt(place + 1)) & MASK;
    state = ((state ^ (state >> 30n)) * 0xbf58476d1ce4e5b9n) & MASK;
    state = ((state ^ (state >> 27n)) * 0x94d049bb133111ebn) & MASK;
    state ^= state >> 31n;
  }
  return Number(state >> 11n) / 2 ** 53;
}

export interface WaveSettings {
  length: number;
  height: number;
  number: number;
  variety: number;
  phase: number;
  seed: number;
  form: string;
}

function shape(form: string, t: number): number {
  const part = t - Math.floor(t);
  if (form === "stepped") return part < 0.5 ? 1 : -1;
  if (form === "pointed") return part < 0.75 ? 1 - 4 * Math.abs(part - 0.25) : 4 * (part - 1);
  return Math.sin(2 * Math.PI * part);
}

/** The sum of the waves at a distance across. */
export function waveAt(s: WaveSettings, across: number): number {
  let total = 0;
  for (let k = 0; k < s.number; k += 1) {
    const several = s.number > 1;
    const length = s.length * (several ? 2 ** (1.5 * s.variety * (2 * draw(s.seed, k, 0) - 1)) : 1);
    const height = s.height * (several ? 1 + 0.7 * s.variety * (2 * draw(s.seed, k, 1) - 1) : 1);
    total += height * shape(s.form, across / length + (k ? draw(s.seed, k, 2) : 0) + s.phase);
  }
  return total;
}
