import Fuse from "fuse.js";
import type { CatalogueData, Kind, OwnFormula } from "../../api/client";
import type { Settings } from "./piece";
import { defaults } from "./settings";

/** What can be added to a trail. */
export interface Choice {
  name: string;
  /** What stands below the name. */
  note: string;
  family: Kind["family"];
  purpose: string;
  /** What else it is looked for by: this one, and all of its kind. */
  own: string[];
  words: string[];
  steps: { kind: string; settings: Settings }[];
  /** What a step before it must be to others, so that it says something. */
  after?: Kind["role"];
  /** Which of its steps it is about, where it brings others along. */
  main?: number;
}

/** What a ring with this side inside brings along, before and after it. */
export interface Companions {
  inside: string;
  before: { kind: string; settings: { [name: string]: unknown } }[];
  after: { kind: string; settings: { [name: string]: unknown } }[];
}

/** A choice of one ring with the steps that help it here; those that stand in the trail already are not brought again. */
export function accompanied(
  choice: Choice,
  companions: Companions[],
  byKey: ReadonlyMap<string, Kind>,
  earlier: string[],
  later: string[],
): Choice {
  const [step, second] = choice.steps;
  if (!step || second || byKey.get(step.kind)?.role !== "winds") return choice;
  const found = companions.find(({ inside }) => inside === step.settings.inside);
  const brought = (steps: Companions["before"], there: string[]) =>
    steps.flatMap(({ kind, settings }) => {
      const known = byKey.get(kind);
      return known && !there.includes(kind) ? [{ kind, settings: defaults(known, settings as Settings) }] : [];
    });
  const before = brought(found?.before ?? [], earlier);
  const steps = [...before, step, ...brought(found?.after ?? [], later)];
  return steps.length > 1 ? { ...choice, steps, main: before.length } : choice;
}

const BLANK: Settings = { system: "flat", first: "x", second: "y", knobs: {} };

/** Every kind at its defaults where those do something, at each of its starting points; the starting points of several steps; formulas. */
export function choicesOf(catalogue: Pick<CatalogueData, "kinds" | "several">, own: OwnFormula[]): Choice[] {
  const byKey = new Map(catalogue.kinds.map((kind) => [kind.key, kind]));
  const made = (key: string, settings: Settings): Choice["steps"] => {
    const kind = byKey.get(key);
    return kind ? [{ kind: key, settings: defaults(kind, settings) }] : [];
  };
  const single = catalogue.kinds.flatMap((kind) => {
    const one = (name: string, settings: Settings, own: string[]): Choice => ({
      name,
      note: name === kind.label ? "" : kind.label,
      family: kind.family,
      purpose: kind.purpose,
      own,
      words: kind.words,
      steps: made(kind.key, settings),
    });
    const plain = kind.plain ? [one(kind.label, {}, [])] : [];
    const starts = kind.starts.map((start) => ({
      ...one(start.name, start.settings as Settings, start.words),
      after: start.after ?? null,
    }));
    return [...plain, ...starts];
  });
  const several = catalogue.several.map(
    (run): Choice => ({
      name: run.name,
      note: `${run.steps.length} steps`,
      family: "bend",
      purpose: run.purpose,
      own: run.words,
      words: [],
      steps: run.steps.flatMap(({ kind, settings }) => made(kind, settings as Settings)),
    }),
  );
  const formulas = catalogue.kinds.find((kind) => kind.role === "formula");
  const formula = (name: string, note: string, purpose: string, settings: Settings): Choice => ({
    name,
    note,
    family: "bend",
    purpose,
    own: [],
    words: formulas?.words ?? [],
    steps: formulas ? made(formulas.key, settings) : [],
  });
  const written = [
    ...own.map((one) => formula(one.name, "Own formula", "From your formula book.", one.settings as Settings)),
    formula("Blank formula", "Formula", "Leaves everything where it is until you write two lines.", BLANK),
  ];
  return [...single, ...several, ...written];
}

/** Two wrong letters in six are forgiven, in short words hardly any. */
const forgiving = (sought: string) => ({
  ignoreLocation: true,
  threshold: sought.length < 5 ? 0.2 : sought.length < 6 ? 0.3 : 0.4,
  minMatchCharLength: 2,
});

/** How good an answer is, the smaller the better: where it is called so, then by how early the word stands. */
const TIERS = 100;

/** What is called so, whole, before what only has the word in a longer name; a start's own words before its kind's. */
function called(choice: Choice, sought: string): number {
  const among = (names: string[]) => names.findIndex((name) => name.toLowerCase() === sought);
  const within = (names: string[]) => names.findIndex((name) => wordsOf(name).includes(sought));
  const places = [
    among([choice.name]),
    among(choice.own),
    among([choice.note]),
    within([choice.note]),
    among(choice.words),
    within([choice.name]),
    within(choice.own),
    within(choice.words),
  ];
  const tier = places.findIndex((place) => place >= 0);
  return tier < 0 ? Number.POSITIVE_INFINITY : tier * TIERS + (places[tier] ?? 0);
}

const KEYS = [
  { name: "name", weight: 3 },
  { name: "own", weight: 2 },
  { name: "words", weight: 2 },
  { name: "note", weight: 2 },
  { name: "family", weight: 1 },
];
const indexes = new WeakMap<Choice[], ReturnType<typeof Fuse.createIndex<Choice>>>();

/** Similar names, the nearest first. */
function alike(choices: Choice[], sought: string): Choice[] {
  const index = indexes.get(choices) ?? Fuse.createIndex<Choice>(KEYS, choices);
  indexes.set(choices, index);
  return new Fuse(choices, { ...forgiving(sought), keys: KEYS }, index).search(sought).map(({ item }) => item);
}

/** Choices by how well they answer to each of some words: those that answer to the most first. */
function bySingleWords(choices: Choice[], sought: string): Choice[] {
  const apart = sought.split(/\s+/).filter((word) => word.length > 2);
  if (apart.length < 2) return [];
  return choices
    .map((choice) => ({ choice, ranks: apart.map((word) => called(choice, word)).filter(Number.isFinite) }))
    .filter(({ ranks }) => ranks.length > 0)
    .sort((a, b) => b.ranks.length - a.ranks.length || sum(a.ranks) - sum(b.ranks))
    .map(({ choice }) => choice);
}

const sum = (numbers: number[]): number => numbers.reduce((all, one) => all + one, 0);

/** What answers to a few words, the best first: what is called so, then by single words, then what sounds like it, then what is said to do it. */
export function found(choices: Choice[], text: string): Choice[] {
  const sought = text.trim().toLowerCase();
  if (!sought) return choices;
  const ranked = choices.map((choice) => ({ choice, rank: called(choice, sought) })).filter(({ rank }) => Number.isFinite(rank));
  const named = ranked.sort((a, b) => a.rank - b.rank).map(({ choice }) => choice);
  const single = named.length ? [] : bySingleWords(choices, sought);
  const said = choices.filter((choice) => choice.purpose.toLowerCase().includes(sought));
  return [...new Set([...named, ...single, ...alike(choices, sought), ...said])];
}

const wordsOf = (name: string): string[] => [name.toLowerCase(), ...name.toLowerCase().split(/[^\p{L}]+/u)];

export type Missing = CatalogueData["missing"][number];

/** What is looked for by these words and is no step, and whether it is called so: then it is the first answer. */
export function missed(missing: Missing[], text: string): { what: Missing; first: boolean }[] {
  const sought = text.trim().toLowerCase();
  if (sought.length < 3) return [];
  const fuse = new Fuse(missing, { ...forgiving(""), keys: ["label", "words"] });
  // Few letters stand inside many words: "ring" is no "lettering".
  const begins = ({ label, words }: Missing) =>
    [label, ...words].some((name) =>
      name
        .toLowerCase()
        .split(/\W+/)
        .some((word) => word.startsWith(sought)),
    );
  return fuse
    .search(sought)
    .filter(({ item }) => sought.length > 4 || begins(item))
    .map(({ item: what }) => ({ what, first: [what.label, ...what.words].some((name) => name.toLowerCase() === sought) }));
}
