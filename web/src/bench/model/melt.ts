import type { components } from "../../api/generated";
import type { Settings, SettingValue } from "./piece";

/** What the hand set at a round of a melt, holding from there on. */
export type MeltKey = components["schemas"]["MeltKey"];

/** The settings that can be changed while it runs. */
export const KEYED = ["heading", "push", "threshold", "hold"] as const;
export type Keyed = (typeof KEYED)[number];
export const MOST_ROUNDS = 400;

export const isKeyed = (name: string): name is Keyed => (KEYED as readonly string[]).includes(name);

export const keysOf = (settings: Settings): MeltKey[] => (settings.keys as MeltKey[] | undefined) ?? [];

/** The keys with one value set from a round on. */
export function withKey(keys: MeltKey[], round: number, name: Keyed, value: number): MeltKey[] {
  const there = keys.find((key) => key.round === round);
  const rest = keys.filter((key) => key.round !== round);
  return [...rest, { ...there, round, [name]: value }].sort((a, b) => a.round - b.round);
}

/** What a change of settings means while a melt runs at a round: what can be keyed holds from the next round on, the rest at once. */
export function changedWhileRunning(settings: Settings, round: number, change: Settings): Settings {
  const before = keysOf(settings);
  let keys = before;
  const rest: Record<string, SettingValue> = {};
  for (const [name, value] of Object.entries(change)) {
    if (isKeyed(name) && typeof value === "number") keys = withKey(keys, round + 1, name, value);
    else rest[name] = value;
  }
  return keys === before ? rest : { ...rest, keys: keys };
}

/** What a change means at rest: it changes what holds in the round that is seen, so the key that set it, else what it began with. */
export function changedAtRest(settings: Settings, round: number, change: Settings): Settings {
  const before = keysOf(settings);
  let keys = before;
  const rest: Record<string, SettingValue> = {};
  for (const [name, value] of Object.entries(change)) {
    const holds = isKeyed(name) ? keys.findLast((key) => key.round <= round && typeof key[name] === "number") : undefined;
    if (holds && isKeyed(name) && typeof value === "number") keys = withKey(keys, holds.round, name, value);
    else rest[name] = value;
  }
  return keys === before ? rest : { ...rest, keys: keys };
}

/** The settings with what holds in a round in place of what it began with. */
export function inForce(settings: Settings, round: number): Settings {
  const out: Record<string, SettingValue> = { ...settings };
  for (const key of keysOf(settings)) {
    if (key.round > round) continue;
    for (const name of KEYED) {
      const value = key[name];
      if (value !== undefined && value !== null) out[name] = value;
    }
  }
  return out;
}
