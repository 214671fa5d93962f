import type { CatalogueData, Kind } from "../../api/client";
import {
  allEntries,
  asLayer,
  changeEntry,
  type Entry,
  entryOf,
  HERE,
  isGroup,
  loosened,
  type PieceDocument,
  type Settings,
  type Step,
  type Where,
} from "./piece";
import { reshapes } from "./settings";

export type Bond = CatalogueData["box_bonds"][number];

/** What the core allows a document to be, as the catalogue says it. */
export interface Rules {
  kinds: ReadonlyMap<string, Kind>;
  /** The defaults of drawn sources and of photos, by the kind of source. */
  sources: ReadonlyMap<string, Settings>;
  /** The defaults of shapes, by their kind. */
  shapes: ReadonlyMap<string, Settings>;
  boxBonds: Bond[];
  mostLayers: number;
  mostSteps: number;
}

export const NO_RULES: Rules = {
  kinds: new Map(),
  sources: new Map(),
  shapes: new Map(),
  boxBonds: [],
  mostLayers: Number.POSITIVE_INFINITY,
  mostSteps: Number.POSITIVE_INFINITY,
};

const defaultsOf = (settings: Kind["settings"]): Settings =>
  Object.fromEntries(settings.map((one) => [one.name, one.default as Settings[string]]));

export const rulesOf = (catalogue: CatalogueData): Rules => ({
  kinds: new Map(catalogue.kinds.map((kind) => [kind.key, kind])),
  sources: new Map([
    ...catalogue.sources.map((source): [string, Settings] => [source.key, defaultsOf(source.settings)]),
    ...["photo", "cut-out"].map((kind): [string, Settings] => [kind, { fit: "cover", keep: [], ...defaultsOf(catalogue.tile) }]),
  ]),
  shapes: new Map(catalogue.shapes.map((shape) => [shape.key, { join: "add", ...defaultsOf(shape.settings) }])),
  boxBonds: catalogue.box_bonds,
  mostLayers: catalogue.most_layers,
  mostSteps: catalogue.most_steps,
});

/** What an edit leaves once it is as the core allows it, and what was changed besides; or why it is not made. */
export type Settled = { document: PieceDocument; said: string[] } | { refused: string };

const WHOLE = { strength: 1, blend: "normal", channels: ["r", "g", "b"], where: null } as const;

const isLaid = (step: Step): boolean =>
  (step.strength ?? 1) !== 1 || (step.blend ?? "normal") !== "normal" || Boolean(step.where) || !everywhere(step);

function everywhere(step: Step): boolean {
  const channels: readonly string[] = step.channels ?? WHOLE.channels;
  return ["r", "g", "b"].every((one) => channels.includes(one)) || ["light", "colour"].every((one) => channels.includes(one));
}

const isIn = (bond: Bond, first: number, second: number): boolean =>
  bond.sort === "order" ? second - first >= bond.by - 1e-9 : first <= bond.by * second && second <= bond.by * first;

/** Numbers brought back to what they must be to each other: what was not touched stays. */
export function bound<Numbers extends Record<string, unknown>>(
  bonds: Bond[],
  before: Record<string, unknown> | undefined,
  after: Numbers,
): Numbers {
  let now = after;
  for (const bond of bonds) {
    const { first, second, by } = bond;
    const [a, b] = [now[first], now[second]].map(Number) as [number, number];
    if (now[first] === undefined || now[second] === undefined || isIn(bond, a, b)) continue;
    const touched = before && before[second] === now[second] ? first : second;
    const other = touched === first ? b : a;
    const low = bond.sort === "order" ? (touched === second ? a + by : Number.NEGATIVE_INFINITY) : other / by;
    const high = bond.sort === "order" ? (touched === first ? b - by : Number.POSITIVE_INFINITY) : other * by;
    now = { ...now, [touched]: Number(Math.min(high, Math.max(low, Number(now[touched]))).toFixed(6)) };
  }
  return now;
}

/** A step as the core takes it, and what had to be put back for that. */
function repaired(before: Step | undefined, step: Step, rules: Rules): { step: Step; said?: string } {
  const kind = rules.kinds.get(step.kind);
  if (!kind) return { step };
  const whole = { ...defaultsOf(kind.settings), ...step.settings };
  const held = bound(kind.bonds, before && { ...defaultsOf(kind.settings), ...before.settings }, whole);
  const kept = held === whole ? step : { ...step, settings: { ...step.settings, ...changedIn(whole, held) } };
  if (reshapes(kind, kept.settings) && isLaid(kept)) {
    return {
      step: { ...kept, ...WHOLE, channels: [...WHOLE.channels] },
      said: `${kind.label} now reshapes the frame, so it acts on the whole picture. Area, channels, opacity and blend were reset.`,
    };
  }
  if (kind.cuts && ((kept.blend ?? "normal") !== "normal" || !everywhere(kept))) {
    return {
      step: { ...kept, blend: "normal", channels: [...WHOLE.channels] },
      said: `${kind.label} has no channels and no blend; they were reset.`,
    };
  }
  return { step: kept };
}

const changedIn = (before: Settings, after: Settings): Settings =>
  Object.fromEntries(Object.entries(after).filter(([name, value]) => before[name] !== value));

const nameOf = (entry: Entry): string => entry.name || (isGroup(entry) ? "the group" : "the layer");

/** Layers of one link have the same steps: where only one is left, or a document came with others, they go their own ways. */
function families(document: PieceDocument): { document: PieceDocument; torn: string[] } {
  const found = new Map<string, Entry[]>();
  for (const entry of allEntries(document.layers)) if (entry.link) found.set(entry.link, [...(found.get(entry.link) ?? []), entry]);
  const stepsOf = (entry: Entry) => JSON.stringify(asLayer(entry).steps.map(({ id: _, ...rest }) => rest));
  const torn: string[] = [];
  let now = document;
  for (const family of found.values()) {
    const differs = family.some((one) => stepsOf(one) !== stepsOf(family[0] as Entry));
    if (family.length > 1 && !differs) continue;
    if (differs) torn.push(...family.map(nameOf));
    for (const one of family) now = changeEntry(now, one.id, (entry) => [{ ...entry, link: null }]);
  }
  return { document: now, torn };
}

/**
 * What an edit leaves of a document, as the core takes it: repaired, with words for what was changed besides, or refused with a sentence. Parts
 * that the edit did not touch are not looked at again.
 */
export function settled(before: PieceDocument, after: PieceDocument, rules: Rules): Settled {
  const entries = allEntries(after.layers);
  const lowest = entries.find((entry) => !isGroup(entry));
  if (!lowest || isGroup(lowest)) return { refused: "This is the only layer. Add another one first." };
  if (lowest.source.kind === "below") {
    return {
      refused: `Nothing would be below “${nameOf(lowest)}”, which shows the picture below it. Delete it first, or give it another source.`,
    };
  }
  if (entries.length > rules.mostLayers) return { refused: `A piece has ${rules.mostLayers} layers and groups at most.` };
  const said: string[] = [];
  let document = after;
  for (const entry of entries) {
    const old = entryOf(before, entry.id);
    if (entry === old) continue;
    const { steps } = asLayer(entry);
    if (steps.length > rules.mostSteps) return { refused: `A layer has ${rules.mostSteps} steps at most.` };
    const earlier = new Map((old ? asLayer(old).steps : []).map((step) => [step.id, step]));
    const mended = steps.map((step) => {
      if (earlier.get(step.id) === step) return step;
      const found = repaired(earlier.get(step.id), step, rules);
      if (found.said && !said.includes(found.said)) said.push(found.said);
      return found.step;
    });
    if (mended.some((step, n) => step !== steps[n]))
      document = changeEntry(document, entry.id, (one) => [{ ...one, steps: mended } as Entry]);
  }
  const box = document.frame?.box;
  if (box && box !== before.frame?.box) {
    const held = bound(rules.boxBonds, before.frame?.box ?? undefined, box);
    if (held !== box) document = { ...document, frame: { ratio: document.frame?.ratio ?? null, box: held } };
  }
  const loose = loosened(document, guideOf(rules));
  for (const { step, layer } of loose.lost) {
    const was = entryOf(before, layer);
    said.push(
      `${rules.kinds.get(step.kind)?.label ?? step.kind} used ${was ? `“${nameOf(was)}”` : "a layer"}, which is no longer below it. It uses its own picture again.`,
    );
  }
  if (loose.document.layers === before.layers) return { document: loose.document, said };
  const { document: joined, torn } = families(loose.document);
  if (torn.length) said.push(`${torn.map((name) => `“${name}”`).join(" and ")} now have different steps and are no longer linked.`);
  return { document: joined, said };
}

/** The setting of a kind that may name a layer below. */
export const guideOf =
  (rules: Rules) =>
  (kind: string): string | null =>
    rules.kinds.get(kind)?.guide_layer ?? null;

const STEP: Partial<Step> = { on: true, ...WHOLE, channels: [...WHOLE.channels] };
const ENTRY: Record<string, unknown> = { name: "", visible: true, opacity: 1, blend: "normal", where: null, place: null, link: null };

/** Whether two values are the same, part by part; what is left out is what `usual` says. */
export function same(a: unknown, b: unknown, usual: Record<string, unknown> = {}): boolean {
  if (a === b) return true;
  if (typeof a !== "object" || typeof b !== "object" || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b)) {
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((part, n) => same(part, b[n]));
  }
  const [left, right] = [a, b] as Record<string, unknown>[];
  const of = (record: Record<string, unknown> | undefined, name: string) => record?.[name] ?? usual[name] ?? null;
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((name) => same(of(left, name), of(right, name)));
}

function sameWhere(a: Where | null | undefined, b: Where | null | undefined, rules: Rules): boolean {
  if (a === b || (!a && !b)) return true;
  if (!a || !b) return false;
  const { shapes, ...rest } = a;
  const { shapes: others, ...more } = b;
  return (
    same(rest, more, { feather: 0, invert: false }) &&
    (shapes ?? []).length === (others ?? []).length &&
    (shapes ?? []).every((shape, n) => same(shape, others?.[n], rules.shapes.get(shape.kind)))
  );
}

function sameStep(a: Step, b: Step, rules: Rules): boolean {
  if (a === b) return true;
  const kind = rules.kinds.get(a.kind);
  const { settings: own, where, ...rest } = a;
  const { settings: other, where: there, ...more } = b;
  return (
    same(rest, more, STEP as Record<string, unknown>) &&
    sameWhere(where, there, rules) &&
    same(own, other, kind && defaultsOf(kind.settings))
  );
}

function sameEntry(a: Entry, b: Entry, rules: Rules): boolean {
  if (a === b) return true;
  if (isGroup(a) !== isGroup(b)) return false;
  const [left, right] = [asLayer(a), asLayer(b)];
  const { steps, source, where, place, ...rest } = left;
  const { steps: others, source: other, where: there, place: put, ...more } = right;
  const lies = !place === !put && (!place || same(place, put, HERE as unknown as Record<string, unknown>));
  const alike = same({ ...rest, layers: null }, { ...more, layers: null }, ENTRY) && lies && sameWhere(where, there, rules);
  const grounds = isGroup(a) && isGroup(b) ? sameEntries(a.layers, b.layers, rules) : same(source, other, rules.sources.get(source.kind));
  return alike && grounds && steps.length === others.length && steps.every((step, n) => sameStep(step, others[n] as Step, rules));
}

const sameEntries = (a: Entry[], b: Entry[], rules: Rules): boolean =>
  a === b || (a.length === b.length && a.every((entry, n) => sameEntry(entry, b[n] as Entry, rules)));

/** Whether two documents say the same: what is left out is as if it were written at its default. */
export const sameDocument = (a: PieceDocument, b: PieceDocument, rules: Rules): boolean =>
  a === b || (same(a.frame ?? {}, b.frame ?? {}) && sameEntries(a.layers, b.layers, rules));
