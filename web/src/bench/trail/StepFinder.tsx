import { Button, Input } from "antd";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { arrowed } from "../../shared/useRoving";
import { remember } from "../clipboard";
import { focusPicture } from "../keys/picture";
import type { Choice } from "../model/find";
import { freshIds, type Step, stepsOf, withSteps } from "../model/piece";
import { used, usePrefs } from "../prefs";
import { useBenchPart, useDocument } from "../store";
import { FinderCard } from "./FinderCard";
import { NoSuchStep } from "./NoSuchStep";
import { useFinder } from "./useFinder";
import "./StepFinder.css";

const ARROWS = ["ArrowLeft", "ArrowRight", "ArrowUp", "ArrowDown"];
/** So long the hand rests on a tile until the large picture shows it. */
const RESTS = 140;

/** Finds a step to add: type to search, arrows mark one, Enter takes it; what is marked or rested on is seen on the large picture. */
export function StepFinder({ at }: { at: number }) {
  const document = useDocument();
  const { byKey } = useCatalogue();
  const { layer, region, edit, patch } = useBenchPart("layer", "region", "edit", "patch");
  const areaTool = usePrefs((prefs) => prefs.areaTool);
  const [text, setText] = useState("");
  const [marked, setMarked] = useState<string | null>(null);
  const body = useRef<HTMLDivElement>(null);
  const rests = useRef(0);
  const { groups, isNoStep } = useFinder(at, text);
  const close = () => {
    patch({ overlay: null, region: null });
    focusPicture();
  };
  // Whatever is tried goes with the finder.
  useEffect(
    () => () => {
      window.clearTimeout(rests.current);
      patch({ tried: null });
    },
    [patch],
  );
  const stepsFor = (choice: Choice, ids: string[]): Step[] =>
    choice.steps.map((step, n) => ({ id: ids[n] ?? "", on: true, ...step, ...(region ? { where: region } : {}) }));
  const show = (choice: Choice | null) => {
    window.clearTimeout(rests.current);
    if (!choice) return patch({ tried: null });
    rests.current = window.setTimeout(() => {
      const steps = stepsFor(choice, freshIds(document, choice.steps.length));
      const trial = withSteps(document, [...stepsOf(document, layer).slice(0, at), ...steps], layer);
      patch({ tried: { document: trial, upto: at + steps.length, name: choice.name } });
    }, RESTS);
  };
  const takeChoice = (choice: Choice) => {
    const ids = freshIds(document, choice.steps.length);
    const steps = stepsFor(choice, ids);
    if (!edit({ type: "add", at, steps })) return;
    remember(steps);
    used(choice);
    // What only its where makes do something opens it, ready to be drawn.
    const cuts = !region && choice.steps.some((step) => byKey.get(step.kind)?.cuts);
    const opened = cuts ? { whereOpen: true, tool: areaTool } : {};
    patch({ overlay: null, region: null, selected: ids.at(-1) ?? null, side: "step", ...opened });
    focusPicture();
  };
  const all = groups.flatMap((group) => group.choices.map((choice) => ({ id: `${group.key} ${choice.note} ${choice.name}`, choice })));
  const target = all.find((one) => one.id === marked) ?? (text.trim() && !isNoStep ? all[0] : undefined);
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter" && target) takeChoice(target.choice);
    const { selectionStart, value } = event.currentTarget;
    // Within the words left and right are the box's own; behind them they go on to the tiles.
    const isAtEnd = selectionStart === value.length;
    const inWords = value !== "" && ((event.key === "ArrowLeft" && !(isAtEnd && marked)) || (event.key === "ArrowRight" && !isAtEnd));
    if (!ARROWS.includes(event.key) || inWords || !all.length) return;
    event.preventDefault();
    const tiles = [...(body.current?.querySelectorAll<HTMLElement>("[data-tile]") ?? [])];
    const from = tiles.find((tile) => tile.dataset.tile === target?.id);
    const to = from && (marked || text.trim()) ? arrowed(tiles, from, event.key) : tiles[0];
    if (!to) return;
    to.scrollIntoView({ block: "nearest" });
    setMarked(to.dataset.tile ?? null);
    show(all.find((one) => one.id === to.dataset.tile)?.choice ?? null);
  };
  return (
    <section className="finder steps" aria-label="Add a step">
      <div className="finder-head">
        <h2 className="visually-hidden">Add a step</h2>
        <Input
          autoFocus
          allowClear
          placeholder="Add a step: what it should do"
          aria-label="Search steps"
          role="combobox"
          aria-expanded={all.length > 0}
          aria-controls="finder-tiles"
          aria-activedescendant={target ? idOf(target.id) : undefined}
          value={text}
          onChange={(event) => {
            setText(event.target.value);
            setMarked(null);
            show(null);
          }}
          onKeyDown={onKeyDown}
          className="finder-search"
        />
        {region ? (
          <Button size="small" aria-pressed onClick={() => patch({ region: null })}>
            In the drawn area ×
          </Button>
        ) : (
          <Button size="small" onClick={() => patch({ overlay: null, regionAt: at, tool: areaTool })}>
            Only in part of the picture…
          </Button>
        )}
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      {!text && (
        <nav className="families" aria-label="Families">
          {groups.map(({ key, title }) => (
            <button
              key={key}
              type="button"
              className={`bare chip family-${key}`}
              onClick={() => body.current?.querySelector(`div.family-${key}`)?.scrollIntoView()}
            >
              {title}
            </button>
          ))}
        </nav>
      )}
      <div className="finder-body" ref={body} id="finder-tiles" onPointerLeave={() => show(null)}>
        <NoSuchStep text={text} first={(label) => setText(label)} />
        {groups.map(({ key, title, choices }) => (
          <div key={key} className={`family-${key}`}>
            <h3 className={key in PLAIN ? "plain" : ""}>{title}</h3>
            <div className="finder-grid">
              {choices.map((choice) => {
                const id = `${key} ${choice.note} ${choice.name}`;
                return (
                  <FinderCard
                    key={id}
                    {...{ id, choice, at, where: region, domId: idOf(id), marked: target?.id === id }}
                    onTake={() => takeChoice(choice)}
                    onRest={() => show(choice)}
                  />
                );
              })}
            </div>
          </div>
        ))}
        {text && !groups.length && <p className="quiet finder-none">No step found for “{text}”.</p>}
      </div>
    </section>
  );
}

/** Groups that are no family have no colour. */
const PLAIN: Record<string, true> = { found: true, favourites: true, lately: true };

const idOf = (id: string) => `tile-${id.replace(/[^\w-]+/g, "-")}`;
