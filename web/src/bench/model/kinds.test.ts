import { describe, expect, it } from "vitest";
import type { Kind, Setting } from "../../api/client";
import { catalogue } from "../../testing/catalogue";
import { isSpecial, SettingControl } from "../panel/SettingControl";
import { looksAround } from "../useSmallLook";
import { begin, recorded } from "./edits";
import { choicesOf } from "./find";
import type { PieceDocument } from "./piece";
import { rulesOf } from "./rules";

const setting = (name: string, more: Partial<Setting>): Setting => ({
  name, label: name, widget: "number", unit: "units", type: "number", choices: null, minimum: 0, maximum: 1, step: 0.1, default: 0.5, auto: null, when: null, idle: [], fine: false, nullable: false, help: "", ...more,
}); // biome-ignore format: one thing
const twirl = catalogue.kinds.find((kind) => kind.key === "twirl") as Kind;
/** A kind that nobody has written a line of the page for. */
const madeUp = (more: Partial<Kind>): Kind => ({
  ...twirl,
  key: "made-up",
  label: "Made up",
  role: null,
  starts: [],
  plain: true,
  bonds: [],
  handles: [],
  ...more,
});
const withKind = (kind: Kind) => ({ ...catalogue, kinds: [...catalogue.kinds, kind] });
const piece: PieceDocument = {
  caracol: 3,
  layers: [
    { id: "low", name: "Low", source: { kind: "photo", photo: "p" }, steps: [] },
    { id: "mid", name: "Mid", source: { kind: "photo", photo: "p" }, steps: [] },
    {
      id: "top",
      name: "Top",
      source: { kind: "photo", photo: "p" },
      steps: [{ id: "s", kind: "made-up", settings: { after: "low", first: 0.2, second: 0.4 } }],
    },
  ],
};
const edited = (kind: Kind, ...edits: Parameters<typeof recorded>[1][]) =>
  edits.reduce((now, edit) => recorded(now.history, edit, rulesOf(withKind(kind))), {
    history: begin({ name: "P", document: piece }),
    made: true,
    said: null as string | null,
  });

describe("a kind the page knows nothing of but what the catalogue says", () => {
  it("that looks at a layer below looks at its own when that is gone, which is said", () => {
    const guided = madeUp({ guide_layer: "after", settings: [setting("after", { widget: "layer", default: null, nullable: true })] });
    const found = edited(guided, { type: "removeEntry", id: "low" });
    expect(found.said).toContain("Made up used “Low”");
    expect(found.history.present.document.layers[1]).toMatchObject({ steps: [{ settings: { after: null } }] });
  });

  it("that has numbers bound to each other keeps them so", () => {
    const bound = madeUp({
      bonds: [{ sort: "order", first: "first", second: "second", by: 0.1, why: "" }],
      settings: [setting("first", {}), setting("second", {})],
    });
    const found = edited(bound, { type: "set", layer: "top", step: "s", settings: { first: 0.9 } });
    expect(found.history.present.document.layers[2]).toMatchObject({ steps: [{ settings: { first: 0.3 } }] });
  });

  it("that changes the frame by a setting acts whole when it is set", () => {
    const shaping = madeUp({ reshapes: "first", settings: [setting("first", { default: 0 })] });
    const found = edited(
      shaping,
      { type: "set", layer: "top", step: "s", settings: { first: 0 } },
      { type: "step", layer: "top", step: "s", change: { strength: 0.5 } },
      { type: "set", layer: "top", step: "s", settings: { first: 1 } },
    );
    expect(found.said).toContain("Made up now reshapes");
    expect(found.history.present.document.layers[2]).toMatchObject({ steps: [{ strength: 1 }] });
  });

  it.each([{ grounded: true }, { guide_layer: "after" }, { respects_keep: true }])(
    "that looks at more than its input (%o) is tried with what is round it",
    (more) => {
      const plain = { grounded: false, guide_layer: null, respects_keep: false };
      const steps = [{ id: "s", kind: "made-up", settings: {} }];
      expect(looksAround(steps, new Map([["made-up", madeUp({ ...plain, ...more })]]))).toBe(true);
      expect(looksAround(steps, new Map([["made-up", madeUp(plain)]]))).toBe(false);
    },
  );

  it("is found at its defaults where the catalogue offers it so", () => {
    const starts = [{ name: "Begun", words: [], settings: {} }];
    const names = (kind: Kind) => choicesOf(withKind(kind), []).map((choice) => choice.name);
    expect(names(madeUp({ starts, plain: true }))).toEqual(expect.arrayContaining(["Made up", "Begun"]));
    expect(names(madeUp({ starts, plain: false }))).not.toContain("Made up");
  });
});

it("every widget of the catalogue has a control of its own", () => {
  const widgets = new Set(catalogue.kinds.flatMap((kind) => kind.settings.map((one) => one.widget)));
  const drawnOnPicture = new Set(["strokes", "tones"]);
  for (const widget of widgets) {
    const shown = setting("one", { widget });
    expect(isSpecial(shown)).toBe(!["number", "choice", "switch"].includes(widget));
    if (!drawnOnPicture.has(widget)) expect(SettingControl({ setting: shown } as never), widget).not.toBeNull();
  }
});

it("kinds are named in the registries of handles and tools alone", () => {
  const sources = import.meta.glob("../../**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true }) as Record<string, string>;
  // These are channels, a shape and a file format as well.
  const others = new Set(["light", "colour", "map"]);
  const keys = catalogue.kinds
    .map((kind) => kind.key)
    .filter((key) => !others.has(key))
    .join("|");
  const named = new RegExp(`(kind|key)\\)? ?(===|!==|:) "(${keys})"|get\\("(${keys})"\\)|\\["(${keys})"(, "(${keys})")*\\]\\.map`);
  const places = Object.entries(sources)
    .filter(([path]) => !/test\.tsx?$|generated|\/testing\//.test(path) && !/panel\/kindTools\.tsx$|handles\/registry\.ts$/.test(path))
    .filter(([, text]) => named.test(text));
  expect(places.map(([path, text]) => `${path}: ${named.exec(text)?.[0]}`)).toEqual([]);
});
