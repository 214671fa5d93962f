import { blendName } from "./blendName";
import type { Draft, Edit } from "./edits";
import { allEntries, type Settings, type SettingValue, type Step, stepsOf } from "./piece";
import { NO_RULES, type Rules } from "./rules";
import { effective, shownAs } from "./settings";

const words = (name: string): string => name.replaceAll("-", " ").replaceAll("_", " ");

/** What is set, with its value before and after where it is one number; more than a few are a starting point. */
function settingsTold(step: Step | undefined, change: Settings, rules: Rules): string {
  const kind = step && rules.kinds.get(step.kind);
  const names = Object.keys(change);
  if (!step || !kind) return words(names.slice(0, 2).join(", ") || "settings");
  const start = kind.starts.find(
    (one) => names.length > 1 && Object.entries(one.settings).every(([name, value]) => same(change[name], value)),
  );
  if (names.length > 3) return start ? `as “${start.name}”` : "all its settings";
  const strokes = change.strokes;
  if (Array.isArray(strokes)) return strokesTold(step.settings.strokes, strokes);
  if (names.includes("x") && names.includes("y")) return "centre moved";
  return names
    .map((name) => {
      const setting = kind.settings.find((one) => one.name === name);
      const [before, after] = [effective(kind, step.settings, name), change[name]];
      const label = setting?.label.toLowerCase() ?? words(name);
      if (typeof before !== "number" || typeof after !== "number") return typeof after === "string" ? `${label} ${words(after)}` : label;
      const { times, places, after: unit } = shownAs(setting?.unit ?? null);
      return `${label} ${(before * times).toFixed(places)} → ${(after * times).toFixed(places)}${unit}`;
    })
    .join(", ");
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** Which stroke was painted, changed or taken away. */
function strokesTold(before: SettingValue | undefined, after: unknown[]): string {
  const strokes = Array.isArray(before) ? (before as unknown[]) : [];
  const mode = (stroke: unknown) => words(String((stroke as { mode?: string } | undefined)?.mode ?? "stroke"));
  if (after.length > strokes.length) return `stroke ${after.length}, ${mode(after.at(-1))}`;
  const at = after.findIndex((stroke, n) => !same(stroke, strokes[n]));
  if (after.length < strokes.length) return `stroke ${at < 0 ? strokes.length : at + 1} removed`;
  return `stroke ${at + 1} changed`;
}

/** What fields of a step or a layer are called on the screen, where that is another word. */
const FIELDS: Record<string, string> = { where: "area", strength: "opacity", place: "position", link: "linked" };

function fieldsTold(change: object): string {
  return Object.entries(change)
    .map(([name, value]) => {
      const label = FIELDS[name] ?? words(name);
      if (name === "blend") return `blend ${blendName(String(value))}`;
      return label === "opacity" && typeof value === "number" ? `opacity ${Math.round(value * 100)} %` : label;
    })
    .join(", ");
}

/** Say in a few words what an edit does to a draft, as a person would. */
export function told(draft: Draft, edit: Edit, rules: Rules = NO_RULES): string {
  const named = (kind: string) => rules.kinds.get(kind)?.label ?? words(kind);
  const stepOf = (id: string, layer?: string | null) => stepsOf(draft.document, layer).find((one) => one.id === id);
  const kindOf = (id: string, layer?: string | null) => named(stepOf(id, layer)?.kind ?? "step");
  const nameOf = (id: string) => allEntries(draft.document.layers).find((entry) => entry.id === id)?.name || "layer";
  switch (edit.type) {
    case "set":
      return `${kindOf(edit.step, edit.layer)}: ${settingsTold(stepOf(edit.step, edit.layer), edit.settings, rules)}`;
    case "step":
      return `${kindOf(edit.step, edit.layer)}: ${fieldsTold(edit.change)}`;
    case "source":
      return `source: ${words(Object.keys(edit.settings).slice(0, 2).join(", "))}`;
    case "ground":
      return `source: ${edit.source.photo ?? edit.source.kind}`;
    case "add":
      return `add ${edit.steps.map((step) => named(step.kind)).join(", ")}`;
    case "remove":
      return `remove ${kindOf(edit.step, edit.layer)}`;
    case "move":
      return `move ${kindOf(edit.step, edit.layer)}`;
    case "switch":
      return `${kindOf(edit.step, edit.layer)} ${edit.on ? "on" : "off"}`;
    case "entry":
      return `${nameOf(edit.id)}: ${fieldsTold(edit.change)}`;
    case "addEntry":
      return `add layer ${edit.entry.name || ""}`.trim();
    case "removeEntry":
      return `delete ${nameOf(edit.id)}`;
    case "moveEntry":
      return `${nameOf(edit.id)} ${edit.by > 0 ? "up" : "down"}`;
    case "dropEntry":
      return `move ${nameOf(edit.id)}`;
    case "duplicate":
      return `duplicate ${nameOf(edit.id)}`;
    case "group":
      return `group ${nameOf(edit.id)}`;
    case "ungroup":
      return `ungroup ${nameOf(edit.id)}`;
    case "ratio":
      return "shape of the piece";
    case "box":
      return edit.box ? "crop and turn of the piece" : "crop and turn reset";
    case "replace":
      return edit.what;
    case "rename":
      return "rename the piece";
  }
}
