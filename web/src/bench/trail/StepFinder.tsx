import { Button, Input } from "antd";
import { type KeyboardEvent, useState } from "react";
import type { Kind, Run } from "../../api/client";
import { useCatalogue } from "../../shared/useCatalogue";
import { freshIds, type PieceDocument, type Settings, type Step, stepsOf, withSteps } from "../model/piece";
import { defaults } from "../model/settings";
import { useBench } from "../store";
import { useSmallLook } from "../useSmallLook";

interface Choice {
  name: string;
  /** What stands below the name. */
  note: string;
  family: Kind["family"];
  purpose: string;
  steps: { kind: string; settings: Settings }[];
}

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

const matches = (choice: Choice, text: string) =>
  `${choice.name} ${choice.note} ${choice.purpose} ${choice.family}`.toLowerCase().includes(text.toLowerCase());

function FinderCard({ choice, document, at, onTake }: { choice: Choice; document: PieceDocument; at: number; onTake: () => void }) {
  const steps: Step[] = choice.steps.map((step, n) => ({ id: `trial-${n}`, on: true, ...step }));
  const trial = withSteps(document, [...stepsOf(document).slice(0, at), ...steps]);
  const { url, failed } = useSmallLook(trial, at + steps.length);
  return (
    <button type="button" className="bare find" title={choice.purpose} onClick={onTake}>
      {url ? <img src={url} alt="" /> : <span className="blank">{failed ? "not here" : ""}</span>}
      <span>
        {choice.name}
        {choice.note && <small>{choice.note}</small>}
      </span>
    </button>
  );
}

/** Finds a step to add: type to search; each shows what it would do to the picture at this place. */
export function StepFinder({ document, at }: { document: PieceDocument; at: number }) {
  const { kinds, byKey, runs } = useCatalogue();
  const { edit, patch } = useBench();
  const [text, setText] = useState("");
  const found = choicesOf(kinds, runs, byKey).filter((choice) => matches(choice, text));
  const close = () => patch({ finderAt: null });
  const takeChoice = (choice: Choice) => {
    const ids = freshIds(document, choice.steps.length);
    const steps: Step[] = choice.steps.map((step, n) => ({ id: ids[n] ?? "", on: true, ...step }));
    edit({ type: "add", at, steps });
    patch({ finderAt: null, selected: ids.at(-1) ?? null, side: "step" });
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
          style={{ maxWidth: 280 }}
        />
        <span className="quiet small" style={{ flex: 1 }}>
          Each shows your picture with it, at this place.
        </span>
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      <div className="finder-body">
        {FAMILIES.map((family) => {
          const here = found.filter((choice) => choice.family === family);
          if (!here.length) return null;
          return (
            <div key={family} className={`family-${family}`}>
              <h3>{family.charAt(0).toUpperCase() + family.slice(1)}</h3>
              <div className="finder-grid">
                {here.map((choice) => (
                  <FinderCard
                    key={`${choice.note} ${choice.name}`}
                    choice={choice}
                    document={document}
                    at={at}
                    onTake={() => takeChoice(choice)}
                  />
                ))}
              </div>
            </div>
          );
        })}
        {!found.length && (
          <p className="quiet" style={{ padding: 14 }}>
            No step answers to “{text}”.
          </p>
        )}
      </div>
    </section>
  );
}
