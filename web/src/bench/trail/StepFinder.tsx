import { Button, Input } from "antd";
import { type KeyboardEvent, useState } from "react";
import type { Kind } from "../../api/client";
import { freshId, type PieceDocument, type Settings, type Step, stepsOf, withSteps } from "../model/piece";
import { defaults } from "../model/settings";
import { useBench } from "../store";
import { useSmallLook } from "../useSmallLook";

interface Choice {
  kind: Kind;
  name: string;
  settings: Settings;
}

const FAMILIES = ["prepare", "mend", "bend", "break", "finish"] as const;

/** Every kind at its defaults where those do something, and at each of its starting points. */
function choicesOf(kinds: Kind[]): Choice[] {
  return kinds.flatMap((kind) => [
    ...(kind.starts.length && kind.key !== "close-seam" ? [] : [{ kind, name: kind.label, settings: defaults(kind) }]),
    ...kind.starts.map((start) => ({ kind, name: start.name, settings: defaults(kind, start.settings as Settings) })),
  ]);
}

const matches = (choice: Choice, text: string) =>
  `${choice.name} ${choice.kind.label} ${choice.kind.purpose} ${choice.kind.family}`.toLowerCase().includes(text.toLowerCase());

function FinderCard({ choice, document, at, onTake }: { choice: Choice; document: PieceDocument; at: number; onTake: () => void }) {
  const step: Step = { id: "trial", kind: choice.kind.key, on: true, settings: choice.settings };
  const trial = withSteps(document, [...stepsOf(document).slice(0, at), step]);
  const { url, failed } = useSmallLook(trial, at + 1);
  return (
    <button type="button" className="bare find" title={choice.kind.purpose} onClick={onTake}>
      {url ? <img src={url} alt="" /> : <span className="blank">{failed ? "not here" : ""}</span>}
      <span>
        {choice.name}
        {choice.name !== choice.kind.label && <small>{choice.kind.label}</small>}
      </span>
    </button>
  );
}

/** Finds a step to add: type to search; each shows what it would do to the picture at this place. */
export function StepFinder({ document, kinds, at }: { document: PieceDocument; kinds: Kind[]; at: number }) {
  const { edit, patch } = useBench();
  const [text, setText] = useState("");
  const found = choicesOf(kinds).filter((choice) => matches(choice, text));
  const close = () => patch({ finderAt: null });
  const takeChoice = (choice: Choice) => {
    const step: Step = { id: freshId(document), kind: choice.kind.key, on: true, settings: choice.settings };
    edit({ type: "add", at, step });
    patch({ finderAt: null, selected: step.id, side: "step" });
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
          const here = found.filter((choice) => choice.kind.family === family);
          if (!here.length) return null;
          return (
            <div key={family} className={`family-${family}`}>
              <h3>{family.charAt(0).toUpperCase() + family.slice(1)}</h3>
              <div className="finder-grid">
                {here.map((choice) => (
                  <FinderCard
                    key={`${choice.kind.key} ${choice.name}`}
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
