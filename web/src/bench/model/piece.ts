import type { components } from "../../api/generated";

/**
 * The piece document as the Bench edits it. The server checks it against docs/piece.schema.json; its types come from the same models,
 * with the settings of single kinds left open.
 */
type Parts = components["schemas"];
export type PieceDocument = Parts["Document"];
export type Entry = PieceDocument["layers"][number];
export type Layer = Parts["Layer"];
export type Group = Parts["Group"];
/** What layers and groups have alike. */
export type Sheet = Omit<Group, "layers">;
export type Step = Parts["Step"];
export type Settings = Parts["Settings"];
export type SettingValue = Parts["SettingValue"];
/** Where a layer's picture comes from: a photo by name, or a drawn kind with its settings. */
export type Source = Parts["Source"];
export type Place = Parts["Place"];
export type PieceBox = Parts["PieceBox"];
export type Where = Parts["Where"];
/** A shape of a where, as the file holds it: a kind, how it joins, and its own numbers. */
export type Shape = Parts["Shape"];
/** A region of a photo whose features must stay recognisable, and how much is kept there. */
export type KeepArea = Parts["KeepArea"];
export type Blend = NonNullable<Step["blend"]>;
export type Channel = NonNullable<Step["channels"]>[number];

export const keepOf = (source: Source): KeepArea[] => source.keep ?? [];

export const HERE: Place = { x: 0, y: 0, scale: 1, turn: 0, flip: false };

export const isGroup = (entry: Entry): entry is Group => "layers" in entry;

/** All layers and groups, the lowest first, each group before what is in it. */
export const allEntries = (entries: Entry[]): Entry[] =>
  entries.flatMap((entry) => (isGroup(entry) ? [entry, ...allEntries(entry.layers)] : [entry]));

export const allLayers = (document: PieceDocument): Layer[] =>
  allEntries(document.layers).filter((entry): entry is Layer => !isGroup(entry));

export const entryOf = (document: PieceDocument, id: string | null): Entry | undefined =>
  allEntries(document.layers).find((entry) => entry.id === id);

const grounds = new WeakMap<Group, Layer>();

/** An entry as what has a trail: a group is worked on like a layer whose ground is its own layers put together. */
export function asLayer(entry: Entry): Layer {
  if (!isGroup(entry)) return entry;
  const made = grounds.get(entry) ?? { ...entry, source: { kind: "below" }, steps: entry.steps ?? [] };
  grounds.set(entry, made);
  return made;
}

/** The layer or group of this id as what has a trail, or the lowest layer. */
export const layerOf = (document: PieceDocument, id: string | null = null): Layer => {
  const layer = entryOf(document, id) ?? allLayers(document)[0];
  if (!layer) throw new Error("a piece has at least one layer");
  return asLayer(layer);
};

export const stepsOf = (document: PieceDocument, layer: string | null = null): Step[] => layerOf(document, layer).steps;

const changed = (entries: Entry[], id: string, change: (entry: Entry) => Entry[]): Entry[] =>
  entries.flatMap((entry) => {
    if (entry.id === id) return change(entry);
    if (!isGroup(entry)) return [entry];
    const inner = changed(entry.layers, id, change);
    // A group that lost its last layer is gone too.
    return inner.length ? [{ ...entry, layers: inner }] : [];
  });

/** The document with one layer or group replaced by what `change` gives: none, one, or several. */
export const changeEntry = (document: PieceDocument, id: string, change: (entry: Entry) => Entry[]): PieceDocument => ({
  ...document,
  layers: changed(document.layers, id, change),
});

export const withSource = (document: PieceDocument, source: Source, layer: string | null = null): PieceDocument =>
  changeEntry(document, layerOf(document, layer).id, (entry) => [{ ...(entry as Layer), source }]);

export const withSteps = (document: PieceDocument, steps: Step[], layer: string | null = null): PieceDocument =>
  changeEntry(document, layerOf(document, layer).id, (entry) => [{ ...(entry as Layer), steps }]);

/** All layers and groups in the order they are put together: each group after what is in it. */
const laidOrder = (entries: Entry[]): Entry[] =>
  entries.flatMap((entry) => (isGroup(entry) ? [...laidOrder(entry.layers), entry] : [entry]));

/**
 * The document without references to layers that no longer lie below: a step that looked at one looks at its own picture again. `guide` is
 * the setting of a kind that may name one; `lost` are the steps that were changed, and the layers that they looked at.
 */
export function loosened(
  document: PieceDocument,
  guide: (kind: string) => string | null,
): { document: PieceDocument; lost: { step: Step; layer: string }[] } {
  const below = new Set<string>();
  const lost: { step: Step; layer: string }[] = [];
  let changed = document;
  for (const layer of laidOrder(document.layers).map(asLayer)) {
    const gone = (step: Step): string | null => {
      const named = step.settings[guide(step.kind) ?? ""];
      return typeof named === "string" && !below.has(named) ? named : null;
    };
    if (layer.steps.some(gone)) {
      const steps = layer.steps.map((step) => {
        const named = gone(step);
        if (named === null) return step;
        lost.push({ step, layer: named });
        return { ...step, settings: { ...step.settings, [guide(step.kind) ?? ""]: null } };
      });
      changed = withSteps(changed, steps, layer.id);
    }
    if (!isGroup(layer as Entry)) below.add(layer.id);
  }
  return { document: changed, lost };
}

/** The document with only one layer or group to be seen; what it is in, and what it takes from below, stays. */
export function withOnly(document: PieceDocument, id: string): PieceDocument {
  const holds = (entry: Entry): boolean => entry.id === id || (isGroup(entry) && entry.layers.some(holds));
  const within = (entry: Entry): Entry => {
    if (entry.id === id || !isGroup(entry)) return entry.id === id ? { ...entry, visible: true } : { ...entry, visible: false };
    return holds(entry) ? { ...entry, layers: entry.layers.map(within) } : { ...entry, visible: false };
  };
  return { ...document, layers: document.layers.map(within) };
}

/** Steps from the catalogue, such as those that a figure begins with, as steps of their own. */
export const madeSteps = (document: PieceDocument, some: { kind: string; settings: Settings }[]): Step[] =>
  some.map(({ kind, settings }, n) => ({
    id: freshIds(document, some.length)[n] ?? kind,
    kind,
    on: true,
    settings,
    strength: 1,
    blend: "normal",
    channels: ["r", "g", "b"],
    where: null,
  }));

/** Whether a source is drawn, as apart from a photo or what lies below. */
export const isDrawn = (source: Source): boolean => !["photo", "cut-out", "below"].includes(source.kind);

/** What a source is called where it is shown. */
export const sourceName = (source: Source): string => {
  if (source.kind === "photo" || source.kind === "cut-out") return source.photo ?? "nothing yet";
  if (source.kind === "below") return "the picture below";
  return source.kind === "lettering" ? String(source.text ?? "words") : String(source.form ?? source.kind);
};

/** Whether the piece is one layer that is shown as it is. */
export const isSingle = (document: PieceDocument): boolean => {
  const [first, ...more] = document.layers;
  return more.length === 0 && first !== undefined && !isGroup(first) && !first.place && !document.frame?.ratio && !document.frame?.box;
};

/** Return `count` ids that no step of the document has. */
export function freshIds(document: PieceDocument, count: number): string[] {
  const taken = new Set(allEntries(document.layers).flatMap((entry) => asLayer(entry).steps.map((step) => step.id)));
  const fresh: string[] = [];
  for (let number = taken.size + 1; fresh.length < count; number += 1) {
    if (!taken.has(`s${number}`)) fresh.push(`s${number}`);
  }
  return fresh;
}

/** Return `count` ids that no layer, group or link of the document has. */
export function freshLayerIds(document: PieceDocument, count: number): string[] {
  const taken = new Set(allEntries(document.layers).flatMap((entry) => [entry.id, entry.link]));
  const fresh: string[] = [];
  for (let number = taken.size + 1; fresh.length < count; number += 1) {
    if (!taken.has(`layer-${number}`)) fresh.push(`layer-${number}`);
  }
  return fresh;
}

/** A name that no layer or group of the document has: this one, or with the next free number behind it. */
export function distinct(document: PieceDocument, name: string): string {
  const taken = new Set(allEntries(document.layers).map((entry) => entry.name));
  const short = name.slice(0, 190);
  for (let number = 1; ; number += 1) {
    const made = number === 1 ? short : `${short} ${number}`;
    if (!taken.has(made)) return made;
  }
}

/** An entry and all in it linked by names of their own, where they are not: so a copy of it can be linked with it, part by part. */
export function linkable(entry: Entry): Entry {
  const linked = { ...entry, link: entry.link ?? entry.id };
  return isGroup(linked) ? { ...linked, layers: linked.layers.map(linkable) } : linked;
}

/**
 * A copy with ids of its own, for layers and steps alike. `linked` keeps it linked with what it was copied from, part by part; else layers
 * that were linked within it stay so with each other alone.
 */
export function copyOf(document: PieceDocument, entry: Entry, linked = false): Entry {
  const layers = allEntries([entry]);
  const steps = layers.flatMap((one) => asLayer(one).steps);
  const layerIds = freshLayerIds(document, layers.length);
  const stepIds = freshIds(document, steps.length);
  const links = new Map<string, string>();
  const copy = (one: Entry): Entry => {
    const id = layerIds.shift() ?? "";
    const own = asLayer(one).steps.map((step) => ({ ...step, id: stepIds.shift() ?? "" }));
    if (one.link && !links.has(one.link)) links.set(one.link, id);
    const fresh = { id, steps: own, link: linked ? (one.link ?? null) : (links.get(one.link ?? "") ?? null) };
    return isGroup(one) ? { ...one, ...fresh, layers: one.layers.map(copy) } : { ...one, ...fresh };
  };
  const made = copy(entry);
  return { ...made, link: linked ? (made.link ?? null) : null, name: distinct(document, `${entry.name || "Layer"} copy`) };
}
