import { useMemo } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { useBook } from "../book/useBook";
import { accompanied, type Choice, choicesOf, found, missed } from "../model/find";
import { stepsOf } from "../model/piece";
import { adviceOf } from "../model/reading";
import { defaults, reshapes } from "../model/settings";
import { nameOf, usePrefs } from "../prefs";
import { useBench, useDocument } from "../store";
import { useReading } from "../useReading";

const FAMILIES = ["prepare", "mend", "bend", "break", "finish"] as const;

/** Choices under a heading; a family of steps, or what is at hand. */
export interface Group {
  key: string;
  title: string;
  choices: Choice[];
}

const titled = (key: string) => key.charAt(0).toUpperCase() + key.slice(1);

/**
 * What the finder shows for some words, in groups: favourites and the last ten before the families, or what answers to the words; and whether
 * these are the name of what is no step.
 */
export function useFinder(at: number, text: string): { groups: Group[]; isNoStep: boolean } {
  const document = useDocument();
  const catalogue = useCatalogue();
  const { byKey, byRole } = catalogue;
  const { own } = useBook();
  const layer = useBench((state) => state.layer);
  const region = useBench((state) => state.region);
  const favourites = usePrefs((prefs) => prefs.favourites);
  const lately = usePrefs((prefs) => prefs.lately);
  const reading = useReading(document, at, layer);
  const choices = useMemo(() => {
    const advised = adviceOf(reading).flatMap((advice): Choice[] => {
      const kind = byRole(advice.role);
      const steps = kind ? [{ kind: kind.key, settings: defaults(kind, advice.settings) }] : [];
      const purpose = "Suggested for the picture at this step.";
      return kind ? [{ name: advice.name, note: advice.why, family: "prepare", purpose, own: [], words: kind.words, steps }] : [];
    });
    const trail = stepsOf(document, layer).map((step) => step.kind);
    const helped = (choice: Choice) => accompanied(choice, reading?.companions ?? [], byKey, trail.slice(0, at), trail.slice(at));
    const there = trail.slice(0, at).map((kind) => byKey.get(kind)?.role);
    const here = choicesOf(catalogue, own.items).filter(({ after }) => !after || there.includes(after));
    const all = [...advised, ...here.map((choice) => (region ? choice : helped(choice)))];
    // What changes the shape of the frame acts on all of the layer, and so not in a part of it.
    const partly = (choice: Choice) =>
      choice.steps.every(({ kind, settings }) => {
        const known = byKey.get(kind);
        return known !== undefined && !reshapes(known, settings);
      });
    return region ? all.filter(partly) : all;
  }, [reading, byRole, byKey, catalogue, own.items, region, document, layer, at]);
  const isNoStep = useMemo(() => missed(catalogue.missing, text).some(({ first }) => first), [catalogue.missing, text]);
  const groups = useMemo(() => {
    if (text.trim()) {
      const here = found(choices, text);
      const title = isNoStep ? "Similar names" : `${here.length} found`;
      return here.length ? [{ key: "found", title, choices: here }] : [];
    }
    const named = (names: string[]) => names.flatMap((name) => choices.find((choice) => nameOf(choice) === name) ?? []);
    const groups: Group[] = [
      { key: "favourites", title: "Favourites", choices: named(favourites) },
      { key: "lately", title: "Recent", choices: named(lately.filter((name) => !favourites.includes(name))) },
      ...FAMILIES.map((key) => ({ key, title: titled(key), choices: choices.filter((choice) => choice.family === key) })),
    ];
    return groups.filter((group) => group.choices.length > 0);
  }, [choices, text, favourites, lately, isNoStep]);
  return { groups, isNoStep };
}
