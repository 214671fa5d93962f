import { describe, expect, it } from "vitest";
import { catalogue } from "../../testing/catalogue";
import { applyEdit, begin, type Draft, type Edit, record, type Side, travel } from "./edits";
import { linkedTo } from "./layers";
import {
  allEntries,
  asLayer,
  copyOf,
  distinct,
  type Entry,
  entryOf,
  freshIds,
  type Group,
  isGroup,
  isSingle,
  type Layer,
  layerOf,
  withOnly,
} from "./piece";
import { rulesOf } from "./rules";
import { told } from "./telling";

const RULES = rulesOf(catalogue);
const layer = (id: string, ...kinds: string[]): Layer => ({
  id,
  name: id,
  source: { kind: "fill" },
  steps: kinds.map((kind, n) => ({ id: `${id}${n}`, kind, settings: {} })),
});
const draft = (...layers: Entry[]): Draft => ({ name: "Piece", document: { caracol: 3, layers } });
/** The order of the layers, groups in brackets. */
const order = (entries: Entry[]): string => entries.map((e) => (isGroup(e) ? `(${order(e.layers)})` : e.id)).join(" ");
const applied = (start: Draft, ...edits: Edit[]) => edits.reduce((now, edit) => applyEdit(now, edit, RULES), start).document;

describe("layers", () => {
  const three = draft(layer("a"), layer("b", "twirl"), layer("c"));

  it("are added above another, inside its group too", () => {
    expect(order(applied(three, { type: "addEntry", entry: layer("x"), on: "a", side: "above" }).layers)).toBe("a x b c");
    expect(order(applied(three, { type: "group", id: "b" }, { type: "addEntry", entry: layer("x"), on: "b", side: "above" }).layers)).toBe(
      "a (b x) c",
    );
  });

  it("move forward and back through groups, and no further than the ends", () => {
    const grouped = draft(layer("a"), { id: "g", layers: [layer("b")] }, layer("c"));
    expect(order(applied(grouped, { type: "moveEntry", id: "a", by: 1 }).layers)).toBe("(a b) c");
    expect(order(applied(grouped, { type: "moveEntry", id: "a", by: 1 }, { type: "moveEntry", id: "a", by: 1 }).layers)).toBe("(b a) c");
    expect(order(applied(grouped, { type: "moveEntry", id: "b", by: 1 }).layers)).toBe("a b c");
    expect(order(applied(grouped, { type: "moveEntry", id: "c", by: -1 }).layers)).toBe("a (b c)");
    expect(order(applied(grouped, { type: "moveEntry", id: "a", by: -1 }).layers)).toBe("a (b) c");
  });

  it("are deleted, a group with its last one; ungrouped; duplicated with ids of their own", () => {
    const grouped = draft(layer("a"), { id: "g", layers: [layer("b", "ring")] });
    expect(order(applied(grouped, { type: "removeEntry", id: "b" }).layers)).toBe("a");
    expect(order(applied(grouped, { type: "ungroup", id: "g" }).layers)).toBe("a b");
    const copied = applied(grouped, { type: "duplicate", id: "g" });
    const ids = allEntries(copied.layers).map((e) => e.id);
    expect(new Set(ids).size).toBe(5);
    expect(freshIds(copied, 1)).toHaveLength(1);
    const copy = copyOf(grouped.document, layer("z", "ring", "rim")) as Layer;
    expect(copy.steps.map((s) => s.kind)).toEqual(["ring", "rim"]);
    expect(copy.name).toBe("z copy");
  });

  it("have steps edited each by its own", () => {
    const edited = applied(three, { type: "set", layer: "b", step: "b0", settings: { reach: 2 } });
    expect(layerOf(edited, "b").steps[0]?.settings).toEqual({ reach: 2 });
    expect(layerOf(edited).id).toBe("a");
  });

  it("can be seen alone, within their groups", () => {
    const grouped = draft(layer("a"), { id: "g", layers: [layer("b"), layer("c")] });
    const only = withOnly(grouped.document, "b");
    expect(allEntries(only.layers).map((e) => [e.id, e.visible !== false])).toEqual([
      ["a", false],
      ["g", true],
      ["b", true],
      ["c", false],
    ]);
    expect(isSingle(grouped.document)).toBe(false);
    expect(isSingle(draft(layer("a")).document)).toBe(true);
  });

  it("leave a readable list that can be travelled", () => {
    const edits: Edit[] = [
      { type: "entry", id: "b", change: { opacity: 0.5 } },
      { type: "step", layer: "b", step: "b0", change: { strength: 0.3 } },
      { type: "moveEntry", id: "b", by: 1 },
    ];
    const history = edits.reduce((now, edit) => record(now, edit, RULES), begin(three));
    expect(history.past.map((p) => p.done)).toEqual(["b: opacity 50 %", "Twirl: opacity 30 %", "b up"]);
    expect(travel(history, -3).present).toBe(three);
    expect(travel(travel(history, -3), 3).present).toEqual(history.present);
    expect(told(three, { type: "replace", document: three.document, what: "back to First" })).toBe("back to First");
  });
  it("let a displace go back to its own light when the layer it looked at is gone or above", () => {
    const top: Layer = { ...layer("c"), steps: [{ id: "c0", kind: "displace", settings: { by: "a", amount: 0.2 } }] };
    const piece = draft(layer("a"), layer("b"), top);
    const by = (document: Draft["document"]) => layerOf(document, "c").steps[0]?.settings.by;
    expect(by(applied(piece, { type: "removeEntry", id: "b" }))).toBe("a");
    expect(by(applied(piece, { type: "removeEntry", id: "a" }))).toBeNull();
    expect(by(applied(piece, { type: "moveEntry", id: "c", by: -1 }))).toBe("a");
    expect(by(applied(piece, { type: "moveEntry", id: "c", by: -1 }, { type: "moveEntry", id: "c", by: -1 }))).toBeNull();
  });
});

describe("what is dragged", () => {
  const grouped = draft(layer("a"), { id: "g", name: "Group", layers: [layer("b"), layer("c")] }, layer("d"));
  const drop = (id: string, on: string, side: Side) => order(applied(grouped, { type: "dropEntry", id, on, side }).layers);

  it("lies above, below or in what it is let go on", () => {
    expect(drop("d", "a", "below")).toBe("d a (b c)");
    expect(drop("a", "g", "into")).toBe("(b c a) d");
    expect(drop("c", "d", "above")).toBe("a (b) d c");
    expect(drop("g", "d", "above")).toBe("a d (b c)");
  });

  it("never lies within itself, and never takes what is below where nothing is", () => {
    expect(drop("g", "b", "above")).toBe("a (b c) d");
    const lifted = draft(layer("a"), { ...layer("e"), source: { kind: "below" } });
    expect(order(applied(lifted, { type: "dropEntry", id: "a", on: "e", side: "above" }).layers)).toBe("a e");
  });
});

it("a group is worked on like a layer", () => {
  const grouped = draft(layer("a"), { id: "g", name: "Group", layers: [layer("b", "ring")] });
  const step = { id: "s", kind: "twirl", settings: {} };
  const twirled = applied(grouped, { type: "add", layer: "g", at: 0, steps: [step] });
  expect(layerOf(twirled, "g").steps).toEqual([step]);
  expect(layerOf(twirled, "b").steps).toHaveLength(1);
  expect(freshIds(twirled, 1)).not.toContain("s");
  expect(
    layerOf(applied({ name: "", document: twirled }, { type: "set", layer: "g", step: "s", settings: { turns: 1 } }), "g").steps[0]
      ?.settings.turns,
  ).toBe(1);
});

it("new names are names of their own", () => {
  const { document } = draft({ ...layer("a"), name: "Everything below" }, { ...layer("b"), name: "Everything below 2" });
  expect(distinct(document, "Everything below")).toBe("Everything below 3");
  expect(distinct(document, "Star")).toBe("Star");
});

it("another ground takes the place of the whole one that was there", () => {
  const start = draft({ ...layer("a", "ring"), source: { kind: "fill", first: "#123456" } });
  const source: Layer["source"] = { kind: "photo", photo: "b.png" };
  const [changed] = applied(start, { type: "ground", layer: "a", source }).layers;
  expect(changed).toEqual({ ...layer("a", "ring"), source });
  expect(told(start, { type: "ground", layer: "a", source })).toBe("source: b.png");
});

describe("linked copies", () => {
  const start = begin({
    name: "p",
    document: {
      caracol: 3,
      layers: [
        { id: "a", name: "Land", source: { kind: "photo", photo: "x.jpg" }, steps: [{ id: "s1", kind: "twirl", settings: {} }] },
        { id: "b", name: "Sky", source: { kind: "photo", photo: "y.jpg" }, steps: [] },
      ],
    } as never,
  });
  const linked = record(start, { type: "duplicate", id: "a", linked: true });
  const stepsIn = (history: typeof start, id: string) => asLayer(entryOf(history.present.document, id) as Entry).steps;

  it("have names and ids of their own and one link", () => {
    const layers = linked.present.document.layers as Layer[];
    expect(layers.map((layer) => layer.name)).toEqual(["Land", "Land copy", "Sky"]);
    expect(layers[0]?.link).toBe(layers[1]?.link);
    expect(layers[2]?.link ?? null).toBeNull();
    expect(linkedTo(linked.present.document, "a").map((one) => one.name)).toEqual(["Land copy"]);
    // A copy that is not linked knows of no link.
    const free = record(linked, { type: "duplicate", id: "a" });
    expect(linkedTo(free.present.document, "a")).toHaveLength(1);
  });

  it("in a group that is copied are linked with each other, not with those they were copied from", () => {
    const grouped = { caracol: 3, layers: [{ id: "g", name: "Pair", layers: linked.present.document.layers.slice(0, 2) }] };
    const copied = record(begin({ ...linked.present, document: grouped as never }), { type: "duplicate", id: "g" }).present.document;
    const inner = (copied.layers[1] as Group).layers;
    expect(linkedTo(copied, "a").map((one) => one.name)).toEqual(["Land copy"]);
    expect(linkedTo(copied, inner[0]?.id ?? "").map((one) => one.id)).toEqual([inner[1]?.id]);
  });

  it("are edited alike: settings, new steps, moved and removed ones, with ids of their own", () => {
    const copy = linkedTo(linked.present.document, "a")[0]?.id ?? "";
    let now = record(linked, { type: "set", layer: "a", step: "s1", settings: { turns: 0.3 } });
    expect(stepsIn(now, copy)[0]?.settings).toEqual({ turns: 0.3 });
    expect(stepsIn(now, copy)[0]?.id).not.toBe("s1");
    const step = { id: "s9", kind: "tone", settings: {} } as never;
    now = record(now, { type: "add", layer: copy, at: 0, steps: [step] });
    expect(stepsIn(now, "a").map((one) => one.kind)).toEqual(["tone", "twirl"]);
    now = record(now, { type: "move", layer: "a", step: "s1", to: 0 });
    expect(stepsIn(now, copy).map((one) => one.kind)).toEqual(["twirl", "tone"]);
    expect(new Set([...stepsIn(now, "a"), ...stepsIn(now, copy)].map((one) => one.id)).size).toBe(4);
    now = record(now, { type: "remove", layer: copy, step: stepsIn(now, copy)[0]?.id ?? "" });
    expect(stepsIn(now, "a").map((one) => one.kind)).toEqual(["tone"]);
    // Unlinked they go their own ways.
    now = record(now, { type: "entry", id: copy, change: { link: null } });
    now = record(now, { type: "add", layer: copy, at: 0, steps: [step] });
    expect(stepsIn(now, "a")).toHaveLength(1);
  });
});
