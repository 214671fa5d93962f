import { expect, it } from "vitest";
import { catalogue } from "../../testing/catalogue";
import { begin, type Draft, type Edit, record } from "./edits";
import type { Settings } from "./piece";
import { rulesOf } from "./rules";

const RULES = rulesOf(catalogue);
const draft = (kind: string, settings: Settings = {}): Draft => ({
  name: "Marsh",
  document: {
    caracol: 3,
    layers: [{ id: "a", source: { kind: "photo", photo: "a.png" }, steps: [{ id: "s", kind, on: true, settings }] }],
  } as never,
});
const lines = (start: Draft, ...edits: Edit[]) =>
  edits.reduce((now, edit) => record(now, edit, RULES), begin(start)).past.map((one) => one.done);
const set = (settings: Settings, gesture?: string): Edit => ({ type: "set", step: "s", settings, gesture });

it("names step and setting as the panel does, with the value before and after", () => {
  expect(lines(draft("ring", { reach: 1.5 }), set({ reach: 0.8 }))).toEqual(["Ring: size 1.500 → 0.800"]);
  expect(lines(draft("level", { angle: 0 }), set({ angle: 0.025 }))).toEqual(["Level: turn 0.0 → 9.0°"]);
  expect(lines(draft("ring"), set({ x: 0.1, y: 0.2 }))).toEqual(["Ring: centre moved"]);
  expect(lines(draft("twirl"), { type: "switch", step: "s", on: false })).toEqual(["Twirl off"]);
});

it("tells of a gesture what has come of all of it", () => {
  expect(
    lines(draft("ring", { reach: 1.5 }), set({ reach: 1.4 }, "drag"), set({ reach: 1.1 }, "drag"), set({ reach: 0.9 }, "drag")),
  ).toEqual(["Ring: size 1.500 → 0.900"]);
});

it("tells strokes apart", () => {
  const strokes = (...modes: string[]) => set({ strokes: modes.map((mode, n) => ({ mode, line: [n, 0] })) as never });
  expect(lines(draft("touch-up", { strokes: [] }), strokes("clone"), strokes("clone", "heal"), strokes("clone"))).toEqual([
    "Touch-up: stroke 1, clone",
    "Touch-up: stroke 2, heal",
    "Touch-up: stroke 2 removed",
  ]);
});

it("names the starting point that was pressed", () => {
  const kind = RULES.kinds.get("ring");
  const start = kind?.starts.find((one) => one.name === "Tunnel");
  const all = Object.fromEntries((kind?.settings ?? []).map((one) => [one.name, one.default])) as Settings;
  expect(lines(draft("ring"), set({ ...all, ...(start?.settings as Settings) }))).toEqual(["Ring: as “Tunnel”"]);
});
