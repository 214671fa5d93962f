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
  /** What else it is looked for by. */
  words: string[];
  steps: { kind: string; settings: Settings }[];
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
    const one = (name: string, settings: Settings, words: string[]): Choice => ({
      name,
      note: name === kind.label ? "" : kind.label,
      family: kind.family,
      purpose: kind.purpose,
      words: [...words, ...kind.words],
      steps: made(kind.key, settings),
    });
    const plain = kind.plain ? [one(kind.label, {}, [])] : [];
    return [...plain, ...kind.starts.map((start) => one(start.name, start.settings as Settings, start.words))];
  });
  const several = catalogue.several.map(
    (run): Choice => ({
      name: run.name,
      note: `${run.steps.length} steps`,
      family: "bend",
      purpose: run.purpose,
      words: run.words,
      steps: run.steps.flatMap(({ kind, settings }) => made(kind, settings as Settings)),
    }),
  );
  const formulas = catalogue.kinds.find((kind) => kind.role === "formula");
  const formula = (name: string, note: string, purpose: string, settings: Settings): Choice => ({
    name,
    note,
    family: "bend",
    purpose,
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

/** What answers to a few words, the best first: by name, by what people call it, by its family; then by what is said of it. */
export function found(choices: Choice[], text: string): Choice[] {
  const sought = text.trim().toLowerCase();
  if (!sought) return choices;
  const fuse = new Fuse(choices, {
    ...forgiving(sought),
    keys: [
      { name: "name", weight: 3 },
      { name: "words", weight: 2 },
      { name: "note", weight: 2 },
      { name: "family", weight: 1 },
    ],
  });
  const near = fuse.search(sought).map((result) => result.item);
  const apart = sought.split(/\s+/).filter((word) => word.length > 2);
  // No name holds all the words: then those that hold the most of them.
  if (!near.length && apart.length > 1) {
    const hits = new Map<Choice, number>();
    for (const word of apart) for (const choice of found(choices, word)) hits.set(choice, (hits.get(choice) ?? 0) + 1);
    return [...hits].sort(([, a], [, b]) => b - a).map(([choice]) => choice);
  }
  // What is called so, whole, comes before what only sounds like it.
  const whole = (choice: Choice) => [choice.name, choice.note, ...choice.words].some((name) => wordsOf(name).includes(sought));
  const said = choices.filter((choice) => !near.includes(choice) && choice.purpose.toLowerCase().includes(sought));
  return [...near.filter(whole), ...near.filter((choice) => !whole(choice)), ...said];
}

const wordsOf = (name: string): string[] => [name.toLowerCase(), ...name.toLowerCase().split(/[^\p{L}]+/u)];

export type Missing = CatalogueData["missing"][number];

/** What is looked for by these words and is not there yet. */
export function missed(missing: Missing[], text: string): Missing[] {
  if (text.trim().length < 3) return [];
  const fuse = new Fuse(missing, { ...forgiving(""), keys: ["label", "words"] });
  return fuse.search(text.trim()).map((result) => result.item);
}
