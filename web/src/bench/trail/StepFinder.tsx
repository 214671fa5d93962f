import { Button, Input } from "antd";
import { type KeyboardEvent, useRef, useState } from "react";
import type { Kind, Run } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { useInSight } from "../../shared/useInSight";
import { remember } from "../clipboard";
import { freshIds, type Settings, type Step, stepsOf, withSteps } from "../model/piece";
import { adviceOf } from "../model/reading";
import { defaults } from "../model/settings";
import { useBench, useBenchPart, useDocument } from "../store";
import { useReading } from "../useReading";
import { useSmallLook } from "../useSmallLook";
import "./StepFinder.css";

interface Choice {
  name: string;
  /** What stands below the name. */
  note: string;
  family: Kind["family"];
  purpose: string;
  steps: { kind: string; settings: Settings }[];
}

const named = (family: string) => family.charAt(0).toUpperCase() + family.slice(1);

const FAMILIES = ["prepare", "mend", "bend", "break", "finish"] as const;

/** Every kind at its defaults where those do something, at each of its starting points, and the starting points of several steps. */
function choicesOf(kinds: Kind[], runs: Run[], byKey: Map<string, Kind>): Choice[] {
  const single = kinds.flatMap((kind) => {
    const one = (name: string, settings: Settings): Choice => ({
      name,
      note: name === kind.label ? "" : kind.label,
      family: kind.family,
      purpose: kind.purpose,
      steps: [{ kind: kind.key, settings: defaults(kind, settings) }],
    });
    const plain = kind.starts.length && kind.key !== "close-seam" ? [] : [one(kind.label, {})];
    return [...plain, ...kind.starts.map((start) => one(start.name, start.settings as Settings))];
  });
  const several = runs.map(
    (run): Choice => ({
      name: run.name,
      note: `${run.steps.length} steps`,
      family: "bend",
      purpose: run.purpose,
      steps: run.steps.flatMap(({ kind, settings }) => {
        const known = byKey.get(kind);
        return known ? [{ kind, settings: defaults(known, settings as Settings) }] : [];
      }),
    }),
  );
  return [...single, ...several];
}

const fromDefaults = (byKey: Map<string, Kind>, key: string, settings: Settings): Settings => {
  const kind = byKey.get(key);
  return kind ? defaults(kind, settings) : settings;
};

const matches = (choice: Choice, text: string) =>
  `${choice.name} ${choice.note} ${choice.purpose} ${choice.family}`.toLowerCase().includes(text.toLowerCase());

function FinderCard({ choice, at, onTake }: { choice: Choice; at: number; onTake: () => void }) {
  const document = useDocument();
  const steps: Step[] = choice.steps.map((step, n) => ({ id: `trial-${n}`, on: true, ...step }));
  const layer = useBench((state) => state.layer);
  const trial = withSteps(document, [...stepsOf(document, layer).slice(0, at), ...steps], layer);
  const ref = useRef<HTMLButtonElement>(null);
  const { url, failed } = useSmallLook(trial, at + steps.length, layer, useInSight(ref));
  return (
    <button ref={ref} type="button" className="bare find" title={choice.purpose} onClick={onTake}>
      {url ? <img src={url} alt="" /> : <span className="blank">{failed ? "not here" : ""}</span>}
      <span>
        {choice.name}
        {choice.note && <small>{choice.note}</small>}
      </span>
    </button>
  );
}

/** Finds a step to add: type to search; each shows what it would do to the picture at this place. */
export function StepFinder({ at }: { at: number }) {
  const document = useDocument();
  const { kinds, byKey, runs } = useCatalogue();
  const { layer, edit, patch } = useBenchPart("layer", "edit", "patch");
  const [text, setText] = useState("");
  const body = useRef<HTMLDivElement>(null);
  const advised = adviceOf(useReading(document, at, layer)).map(
    (advice): Choice => ({
      name: advice.name,
      note: advice.why,
      family: "prepare",
      purpose: "From the reading of the picture at this place.",
      steps: [{ kind: advice.kind, settings: fromDefaults(byKey, advice.kind, advice.settings) }],
    }),
  );
  const found = [...advised, ...choicesOf(kinds, runs, byKey)].filter((choice) => matches(choice, text));
  const close = () => patch({ overlay: null });
  const takeChoice = (choice: Choice) => {
    const ids = freshIds(document, choice.steps.length);
    const steps: Step[] = choice.steps.map((step, n) => ({ id: ids[n] ?? "", on: true, ...step }));
    edit({ type: "add", at, steps });
    remember(steps);
    patch({ overlay: null, selected: ids.at(-1) ?? null, side: "step" });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "Escape") close();
    if (event.key === "Enter" && found[0] && event.target instanceof HTMLInputElement) takeChoice(found[0]);
  };
  return (
    <section className="finder" aria-label="Add a step" onKeyDown={onKeyDown}>
      <div className="finder-head">
        <h2>Add a step</h2>
        <Input
          autoFocus
          allowClear
          placeholder="Type what it should do"
          aria-label="Search steps"
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="finder-search"
        />
        <nav className="families" aria-label="Families">
          {FAMILIES.filter((family) => found.some((choice) => choice.family === family)).map((family) => (
            <button
              key={family}
              type="button"
              className={`bare chip family-${family}`}
              onClick={() => body.current?.querySelector(`div.family-${family}`)?.scrollIntoView({ behavior: "smooth" })}
            >
              {named(family)}
            </button>
          ))}
        </nav>
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      <div className="finder-body" ref={body}>
        {FAMILIES.map((family) => {
          const here = found.filter((choice) => choice.family === family);
          if (!here.length) return null;
          return (
            <div key={family} className={`family-${family}`}>
              <h3>{named(family)}</h3>
              <div className="finder-grid">
                {here.map((choice) => (
                  <FinderCard key={`${choice.note} ${choice.name}`} choice={choice} at={at} onTake={() => takeChoice(choice)} />
                ))}
              </div>
            </div>
          );
        })}
        {!found.length && <p className="quiet finder-none">No step answers to “{text}”.</p>}
      </div>
    </section>
  );
}
