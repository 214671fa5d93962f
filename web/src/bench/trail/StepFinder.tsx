import { Button, Input } from "antd";
import { type KeyboardEvent, useMemo, useRef, useState } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { useBook } from "../book/useBook";
import { remember } from "../clipboard";
import { type Choice, choicesOf, found, missed } from "../model/find";
import { freshIds, type Step } from "../model/piece";
import { adviceOf } from "../model/reading";
import { defaults, reshapes } from "../model/settings";
import { useBenchPart, useDocument } from "../store";
import { useReading } from "../useReading";
import { FinderCard } from "./FinderCard";
import "./StepFinder.css";

const named = (family: string) => family.charAt(0).toUpperCase() + family.slice(1);

const FAMILIES = ["prepare", "mend", "bend", "break", "finish"] as const;

/** Finds a step to add: type to search; each shows what it would do to the picture at this place. */
export function StepFinder({ at }: { at: number }) {
  const document = useDocument();
  const catalogue = useCatalogue();
  const { byKey, byRole } = catalogue;
  const { own } = useBook();
  const { layer, region, edit, patch } = useBenchPart("layer", "region", "edit", "patch");
  const [text, setText] = useState("");
  const body = useRef<HTMLDivElement>(null);
  const reading = useReading(document, at, layer);
  const choices = useMemo(() => {
    const advised = adviceOf(reading).flatMap((advice): Choice[] => {
      const kind = byRole(advice.role);
      const steps = kind ? [{ kind: kind.key, settings: defaults(kind, advice.settings) }] : [];
      const purpose = "From the reading of the picture at this place.";
      return kind ? [{ name: advice.name, note: advice.why, family: "prepare", purpose, words: kind.words, steps }] : [];
    });
    return [...advised, ...choicesOf(catalogue, own.items)];
  }, [reading, byRole, catalogue, own.items]);
  // What changes the shape of the frame acts on all of the layer, and so not in a part of it.
  const partly = (choice: Choice) =>
    choice.steps.every(({ kind, settings }) => {
      const known = byKey.get(kind);
      return known !== undefined && !reshapes(known, settings);
    });
  const here = found(region ? choices.filter(partly) : choices, text);
  const close = () => patch({ overlay: null, region: null });
  const takeChoice = (choice: Choice) => {
    const ids = freshIds(document, choice.steps.length);
    const steps: Step[] = choice.steps.map((step, n) => ({ id: ids[n] ?? "", on: true, ...step, ...(region ? { where: region } : {}) }));
    if (!edit({ type: "add", at, steps })) return;
    remember(steps);
    // What only its where makes do something opens it, ready to be drawn.
    const cuts = !region && choice.steps.some((step) => byKey.get(step.kind)?.cuts);
    const opened = cuts ? { whereOpen: true, tool: "polygon" as const } : {};
    patch({ overlay: null, region: null, selected: ids.at(-1) ?? null, side: "step", ...opened });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === "Enter" && here[0] && event.target instanceof HTMLInputElement) takeChoice(here[0]);
  };
  const cards = (some: Choice[]) => (
    <div className="finder-grid">
      {some.map((choice) => (
        <FinderCard key={`${choice.note} ${choice.name}`} choice={choice} at={at} where={region} onTake={() => takeChoice(choice)} />
      ))}
    </div>
  );
  return (
    <section className="finder" aria-label="Add a step" onKeyDown={onKeyDown}>
      <div className="finder-head">
        <h2>Add a step</h2>
        <Input
          autoFocus
          allowClear
          placeholder="What it should do"
          aria-label="Search steps"
          value={text}
          onChange={(event) => setText(event.target.value)}
          className="finder-search"
        />
        <nav className="families" aria-label="Families">
          {!text &&
            FAMILIES.map((family) => (
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
        {region ? (
          <Button size="small" aria-pressed onClick={() => patch({ region: null })}>
            In the part drawn ×
          </Button>
        ) : (
          <Button size="small" onClick={() => patch({ overlay: null, regionAt: at, tool: "polygon" })}>
            In a part: draw it
          </Button>
        )}
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      <div className="finder-body" ref={body}>
        {text && here.length > 0 && <h3 className="plain">{here.length} found</h3>}
        {text
          ? cards(here)
          : FAMILIES.map((family) => (
              <div key={family} className={`family-${family}`}>
                <h3>{named(family)}</h3>
                {cards(here.filter((choice) => choice.family === family))}
              </div>
            ))}
        {missed(catalogue.missing, text).map((one) => (
          <p key={one.label} className="quiet finder-none">
            <strong>{one.label}</strong> is not in Caracol yet.
            {one.near.length > 0 && (
              <>
                {" "}
                Near it:{" "}
                {one.near.map((key) => (
                  <button key={key} type="button" className="bare link" onClick={() => setText(byKey.get(key)?.label ?? key)}>
                    {byKey.get(key)?.label ?? key}
                  </button>
                ))}
              </>
            )}
          </p>
        ))}
        {!here.length && <p className="quiet finder-none">No step answers to “{text}”.</p>}
      </div>
    </section>
  );
}
