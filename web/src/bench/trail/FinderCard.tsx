import { useRef } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { useInSight } from "../../shared/useInSight";
import type { Choice } from "../model/find";
import { type Step, stepsOf, type Where, withSteps } from "../model/piece";
import { favour, nameOf, usePrefs } from "../prefs";
import { useBench, useDocument } from "../store";
import { looksAround, useTriedLook } from "../useSmallLook";

interface Props {
  id: string;
  domId: string;
  choice: Choice;
  at: number;
  /** Where it would act; null for everywhere. */
  where: Where | null;
  /** Whether Enter takes it. */
  marked: boolean;
  onTake: () => void;
  onRest: () => void;
}

/** A step that can be added, as a picture of what it would do here. */
export function FinderCard({ id, domId, choice, at, where, marked, onTake, onRest }: Props) {
  const document = useDocument();
  const steps: Step[] = choice.steps.map((step, n) => ({ id: `trial-${n}`, on: true, ...(where ? { where } : {}), ...step }));
  const layer = useBench((state) => state.layer);
  const { byKey } = useCatalogue();
  const trial = withSteps(document, [...stepsOf(document, layer).slice(0, at), ...steps], layer);
  const ref = useRef<HTMLDivElement>(null);
  const { url, failed } = useTriedLook(document, trial, { at, steps, looksAround: looksAround(steps, byKey) }, layer, useInSight(ref));
  const brought = choice.steps
    .filter((_, n) => n !== choice.main)
    .map(({ kind }) => byKey.get(kind)?.label ?? kind)
    .join(", ");
  const isFavourite = usePrefs((prefs) => prefs.favourites.includes(nameOf(choice)));
  return (
    <div ref={ref} className={`find family-${choice.family} ${marked ? "marked" : ""}`} onPointerEnter={onRest}>
      <button type="button" id={domId} className="bare" data-tile={id} title={choice.purpose} onFocus={onRest} onClick={onTake}>
        {url ? <img src={url} alt="" /> : <span className="blank">{failed ? "not available" : ""}</span>}
        <span>
          {choice.name}
          {choice.note && <small>{choice.note}</small>}
          {choice.main !== undefined && <small>with {brought}</small>}
        </span>
      </button>
      <button
        type="button"
        className="bare favourite"
        tabIndex={-1}
        aria-pressed={isFavourite}
        aria-label={`Favourite: ${choice.name}`}
        title={isFavourite ? "Remove from favourites" : "Add to favourites"}
        onClick={() => favour(nameOf(choice))}
      >
        {isFavourite ? "★" : "☆"}
      </button>
    </div>
  );
}
