import { describe, expect, it } from "vitest";
import { catalogue } from "../../testing/catalogue";
import { begin, type Edit, type History, recorded, undo } from "./edits";
import { asLayer, type Entry, entryOf, type Layer, type PieceDocument, type Step } from "./piece";
import { rulesOf } from "./rules";

const RULES = rulesOf(catalogue);
const step = (kind: string, more: Partial<Step> = {}): Step => ({ id: kind, kind, settings: {}, ...more });
const layer = (id: string, steps: Step[] = [], more: Partial<Layer> = {}): Layer => ({
  id,
  name: id,
  source: { kind: "photo", photo: "p" },
  steps,
  ...more,
});
const piece = (...layers: Entry[]): PieceDocument => ({ caracol: 3, layers });
const edited = (document: PieceDocument, ...edits: Edit[]) =>
  edits.reduce((now, edit) => recorded(now.history, edit, RULES), { history: begin({ name: "P", document }), made: true, said: null } as {
    history: History;
    made: boolean;
    said: string | null;
  });
const firstStep = ({ history }: { history: History }, id = "a") => asLayer(entryOf(history.present.document, id) as Entry).steps[0];

describe("what the core would refuse", () => {
  it("is refused with a sentence before anything changes, and leaves nothing to undo", () => {
    const below = piece(layer("a"), layer("b", [], { source: { kind: "below" } }));
    const found = edited(below, { type: "removeEntry", id: "a" });
    expect(found.made).toBe(false);
    expect(found.said).toContain("Nothing would be below “b”");
    expect(found.history.past).toHaveLength(0);
    const last = edited(piece(layer("a")), { type: "removeEntry", id: "a" });
    expect(last.said).toContain("only layer");
    const lowest: Edit = { type: "addEntry", entry: layer("n", [], { source: { kind: "below" } }), on: "a", side: "below" };
    expect(edited(piece(layer("a")), lowest).made).toBe(false);
  });

  it("is repaired where a step begins to change the shape of the frame while it acts partly", () => {
    const partly = piece(
      layer("a", [step("turn", { strength: 0.5, channels: ["g"], where: { shapes: [{ kind: "ellipse" }], feather: 0, invert: false } })]),
    );
    const found = edited(partly, { type: "set", layer: "a", step: "turn", settings: { quarters: 1 } });
    expect(firstStep(found)).toMatchObject({ strength: 1, channels: ["r", "g", "b"], where: null, settings: { quarters: 1 } });
    expect(found.said).toContain("Turn now reshapes");
    expect(undo(found.history).present.document).toBe(partly);
  });

  it.each([
    ["left", { left: 0.9 }, { left: 0.59 }],
    ["right", { right: 0.1 }, { right: 0.21 }],
  ] as const)("keeps the sides of a crop in order where %s is moved", (_, set, expected) => {
    const cropped = piece(layer("a", [step("crop", { settings: { left: 0.2, right: 0.6 } })]));
    const found = edited(cropped, { type: "set", layer: "a", step: "crop", settings: set });
    expect(firstStep(found)?.settings).toMatchObject(expected);
  });

  it("keeps a box from being a slit", () => {
    const box = { x: 0, y: 0, rx: 1, ry: 1, turn: 0 };
    const found = edited(
      piece(layer("a")),
      { type: "box", box },
      { type: "box", box: { ...box, rx: 4 } },
      { type: "box", box: { ...box, rx: 4, ry: 0.05 } },
    );
    expect(found.history.present.document.frame?.box).toMatchObject({ rx: 4, ry: 0.2 });
  });

  it("says whose light a step looks at when the layer it looked at is gone", () => {
    const looking = piece(layer("Land"), layer("a"), layer("top", [step("displace", { settings: { by: "Land" } })]));
    const found = edited(looking, { type: "removeEntry", id: "Land" });
    expect(found.said).toContain("used “Land”");
    expect(firstStep(found, "top")?.settings.by).toBeNull();
  });
});

describe("an edit that changes nothing", () => {
  it.each<[string, Edit]>([
    ["a setting at the value it has", { type: "set", layer: "a", step: "twirl", settings: { turns: 0.25, x: 0 } }],
    [
      "a setting written at its default",
      {
        type: "set",
        layer: "a",
        step: "twirl",
        settings: {
          reach: catalogue.kinds.find((kind) => kind.key === "twirl")?.settings.find((one) => one.name === "reach")?.default as number,
        },
      },
    ],
    ["full strength again", { type: "step", layer: "a", step: "twirl", change: { strength: 1 } }],
    ["a name that is the same", { type: "rename", name: "P" }],
    ["a name of blanks", { type: "rename", name: "  " }],
    ["a layer shown that is shown", { type: "entry", id: "a", change: { visible: true } }],
    ["a layer moved beyond the last", { type: "moveEntry", id: "a", by: 1 }],
  ])("leaves nothing to undo: %s", (_, edit) => {
    const document = piece(layer("a", [step("twirl", { settings: { turns: 0.25 } })]));
    const found = edited(document, edit);
    expect(found.made).toBe(true);
    expect(found.history.past).toHaveLength(0);
  });

  it("nor does a drag that ends where it began; and it can go on from there", () => {
    const document = piece(layer("a", [step("twirl", { settings: { turns: 0.25 } })]));
    const to = (turns: number): Edit => ({ type: "set", layer: "a", step: "twirl", settings: { turns }, gesture: "drag" });
    expect(edited(document, to(0.5), to(0.25)).history).toMatchObject({ past: [], present: { document } });
    expect(edited(document, to(0.5), to(0.25), to(0.6), to(0.7)).history.past).toHaveLength(1);
  });
});

describe("linked copies", () => {
  const linked = edited(piece({ id: "g", name: "g", layers: [layer("in", [step("tone")])], steps: [step("twirl", { id: "t" })] }), {
    type: "duplicate",
    id: "g",
    linked: true,
  }).history;
  const [group, copy] = linked.present.document.layers as [Entry & { layers: Layer[] }, Entry & { layers: Layer[] }];

  it("of a group link what is in it as well", () => {
    const next = recorded(linked, { type: "remove", layer: "in", step: "tone" }, RULES).history.present.document;
    expect(asLayer(entryOf(next, copy.layers[0]?.id ?? "") as Entry).steps).toHaveLength(0);
    expect(group.layers[0]?.link).toBe(copy.layers[0]?.link);
  });

  it("are no longer linked when only one is left", () => {
    const next = recorded(linked, { type: "removeEntry", id: copy.id }, RULES).history.present.document;
    expect([next.layers[0]?.link, (next.layers[0] as typeof group).layers[0]?.link]).toEqual([null, null]);
  });

  it("that come with other steps go their own ways, which is said", () => {
    const torn = { ...linked.present.document, layers: [group, { ...copy, steps: [] }] };
    const found = recorded(linked, { type: "replace", document: torn, what: "use" }, RULES);
    expect(found.said).toContain("no longer linked");
    expect(found.history.present.document.layers.map((one) => one.link)).toEqual([null, null]);
  });
});

it("a list that was drawn for another state is not written into this one", () => {
  const document = piece(layer("a", [step("slices")]));
  const bars = [{ top: 0.1, height: 0.1, drop: 0, left: 0, width: 1, shift: 0.1, stretch: 1, locked: false }];
  const write = (drawnFor: PieceDocument | null | undefined): Edit => ({
    type: "set",
    layer: "a",
    step: "slices",
    settings: { bars },
    gesture: "bar",
    drawnFor,
  });
  expect(edited(document, write(null)).said).toContain("being updated");
  expect(edited(document, write({ ...document })).made).toBe(false);
  expect(edited(document, write(document)).made).toBe(true);
  // The next move of the same drag comes from what it began with.
  expect(edited(document, write(document), write(document)).made).toBe(true);
  expect(edited(document, write(undefined)).made).toBe(true);
});
