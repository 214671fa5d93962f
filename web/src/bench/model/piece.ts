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

/** What there is to see of a layer or group after its first steps (of the finished piece: null), as a key: the same for what looks alike. */
export function showsOf(document: PieceDocument, upto: number | null, layer: string | null): string {
  const { id, source, steps: all } = layerOf(document, layer);
  const steps = all.slice(0, upto ?? undefined);
  const alone = [source, steps.map(({ id: _, ...rest }) => rest)];
  // What lies below counts where the layer begins with it or looks at it; a tiled one fills the piece's frame.
  const looks = steps.some((step) => typeof step.settings.by === "string");
  const depends = upto === null || source.kind === "below" || source.fit === "tile" || looks;
  return JSON.stringify(depends ? [alone, document, upto, upto === null ? null : id] : alone);
}

/** What comes before a step of a layer, without the ids, which nothing that is seen depends on. */
export const stepsBefore = (document: PieceDocument, layer: string | null, step: Step | undefined): Omit<Step, "id">[] => {
  const steps = stepsOf(document, layer);
  return steps
    .slice(
      0,
      steps.findIndex((one) => one.id === step?.id),
    )
    .map(({ id: _, ...rest }) => rest);
};

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

/** The document without references to layers that no longer lie below: a displace that looked at one looks at its own again. */
export function loosened(document: PieceDocument): PieceDocument {
  const below = new Set<string>();
  let changed = document;
  for (const layer of laidOrder(document.layers).map(asLayer)) {
    const lost = (step: Step) =>
      (step.kind === "displace" || step.kind === "map") && typeof step.settings.by === "string" && !below.has(step.settings.by);
    if (layer.steps.some(lost)) {
      const steps = layer.steps.map((step) => (lost(step) ? { ...step, settings: { ...step.settings, by: null } } : step));
      changed = withSteps(changed, steps, layer.id);
    }
    if (!isGroup(layer as Entry)) below.add(layer.id);
  }
  return changed;
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

/** What a source is called where it is shown. */
/** What a figure begins with, so that it stands in the scene: it belongs to its ground, and casts a shadow on it. */
export const figureSteps = (document: PieceDocument): Step[] =>
  ["belong", "shadow"].map((kind, n) => ({
    id: freshIds(document, 2)[n] ?? kind,
    kind,
    on: true,
    settings: {},
    strength: 1,
    blend: "normal",
    channels: ["r", "g", "b"],
    where: null,
  }));

/** Whether a source is drawn, as apart from a photo or what lies below. */
export const isDrawn = (source: Source): boolean => !["photo", "cut-out", "below"].includes(source.kind);

export const sourceName = (source: Source): string => {
  if (source.kind === "photo" || source.kind === "cut-out") return source.photo ?? "no photo";
  if (source.kind === "below") return "everything below";
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

/**
 * A copy with ids of its own, for layers and steps alike. Within it, layers that were linked stay so with each other, not with those they
 * were copied from: only the copy itself may be, by `link`.
 */
export function copyOf(document: PieceDocument, entry: Entry, link: string | null = null): Entry {
  const layers = allEntries([entry]);
  const steps = layers.flatMap((one) => asLayer(one).steps);
  const layerIds = freshLayerIds(document, layers.length);
  const stepIds = freshIds(document, steps.length);
  const links = new Map<string, string>();
  const copy = (one: Entry): Entry => {
    const id = layerIds.shift() ?? "";
    const own = asLayer(one).steps.map((step) => ({ ...step, id: stepIds.shift() ?? "" }));
    if (one.link && !links.has(one.link)) links.set(one.link, id);
    const fresh = { id, steps: own, link: links.get(one.link ?? "") ?? null };
    return isGroup(one) ? { ...one, ...fresh, layers: one.layers.map(copy) } : { ...one, ...fresh };
  };
  return { ...copy(entry), link, name: distinct(document, `${entry.name || "Layer"} copy`) };
}
