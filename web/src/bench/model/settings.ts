import type { Kind, Setting } from "../../api/client";
import type { Settings, SettingValue } from "./piece";

/** Whatever has settings: a kind of step, or a source. */
export interface Settable {
  settings: Setting[];
}

/** How a unit is shown: what stored values are multiplied by, with how many places, and what stands behind. */
const SHOWN: Record<string, { times: number; places: number; after: string }> = {
  turns: { times: 360, places: 1, after: "°" },
  // What may go round more than once.
  revolutions: { times: 1, places: 2, after: "" },
  share: { times: 100, places: 1, after: " %" },
  units: { times: 1, places: 3, after: "" },
  ratio: { times: 1, places: 3, after: "" },
  factor: { times: 1, places: 2, after: "" },
  count: { times: 1, places: 0, after: "" },
};

export const shownAs = (unit: string | null): { times: number; places: number; after: string } =>
  SHOWN[unit ?? ""] ?? { times: 1, places: 2, after: "" };

/** The value in force: the step's own, else the default; for settings left to themselves, what they follow. */
export function effective(kind: Settable, settings: Settings, name: string): SettingValue {
  const setting = kind.settings.find((s) => s.name === name);
  if (!setting) return null;
  const own = settings[name];
  if (own !== undefined && own !== null) return own;
  if (own === undefined && setting.default !== null) return setting.default as SettingValue;
  return autoValue(kind, settings, setting);
}

function autoValue(kind: Settable, settings: Settings, setting: Setting): SettingValue {
  for (const rule of setting.auto ?? []) {
    const holds = Object.entries(rule.when ?? {}).every(([name, value]) => effective(kind, settings, name) === value);
    if (holds) return rule.value;
  }
  return null;
}

export const effectiveNumber = (kind: Settable, settings: Settings, name: string): number => Number(effective(kind, settings, name) ?? 0);

/** Whether a setting has an effect with the others as they are. */
export function applies(kind: Settable, settings: Settings, setting: Setting): boolean {
  return Object.entries(setting.when ?? {}).every(([name, values]) => values.includes(String(effective(kind, settings, name))));
}

/** Why a setting does nothing with the others as they are; null where it does. */
export function whyIdle(kind: Settable, settings: Settings, setting: Setting): string | null {
  const holds = (when: Record<string, string[]>) =>
    Object.entries(when).every(([name, values]) => values.includes(String(effective(kind, settings, name))));
  return setting.idle.find((rule) => holds(rule.when))?.why ?? null;
}

/** Which numbers are the step's own findings, not set by anybody. */
const FOUND = Symbol("found");
type WithFound = Settings & { [FOUND]?: ReadonlySet<string> };

/** Whether a setting differs from its default; what the step found by itself does not. */
export function isChanged(setting: Setting, settings: Settings): boolean {
  if ((settings as WithFound)[FOUND]?.has(setting.name)) return false;
  const own = settings[setting.name];
  return own !== undefined && JSON.stringify(own) !== JSON.stringify(setting.default);
}

/** Whether a step changes the shape of the frame as it is set, and so acts whole. */
export function reshapes(kind: Kind, settings: Settings): boolean {
  if (kind.reshapes === "never") return false;
  return kind.reshapes === "always" || effective(kind, settings, kind.reshapes) !== 0;
}

/** A step's settings with numbers that are left to it as it found them, so that what is shown is what holds. */
export function withTold(kind: Settable, settings: Settings, told: Record<string, unknown> | undefined): Settings {
  const found = kind.settings.filter((one) => one.auto && settings[one.name] == null && typeof told?.[one.name] === "number");
  if (!found.length) return settings;
  const numbers = Object.fromEntries(found.map((one) => [one.name, told?.[one.name] as number]));
  return { ...settings, ...numbers, [FOUND]: new Set(found.map((one) => one.name)) } as WithFound;
}

/** All settings of a kind at their defaults, with some set. */
export const defaults = (kind: Settable, some: Settings = {}): Settings => ({
  ...Object.fromEntries(kind.settings.map((s) => [s.name, s.default as SettingValue])),
  ...some,
});

/** A number of a panel that is no setting of a kind, described as one. */
export const ownNumber = (
  name: string, label: string, minimum: number, maximum: number, unit: string, step: number, help: string, usual: number | null = null,
): Setting => ({
  name, label, widget: "number", unit, type: "number", choices: null, minimum, maximum, step, default: usual, auto: null, when: null, idle: [], fine: false, nullable: false, help,
}); // biome-ignore format: one line each would be long
