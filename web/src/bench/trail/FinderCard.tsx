import { useRef } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { useInSight } from "../../shared/useInSight";
import type { Choice } from "../model/find";
import { type Step, stepsOf, type Where, withSteps } from "../model/piece";
import { useBench, useDocument } from "../store";
import { looksAround, useTriedLook } from "../useSmallLook";

interface Props {
  choice: Choice;
  at: number;
  /** Where it would act; null for everywhere. */
  where: Where | null;
  onTake: () => void;
}

/** A step that can be added, as a picture of what it would do here. */
export function FinderCard({ choice, at, where, onTake }: Props) {
  const document = useDocument();
  const steps: Step[] = choice.steps.map((step, n) => ({ id: `trial-${n}`, on: true, ...(where ? { where } : {}), ...step }));
  const layer = useBench((state) => state.layer);
  const { byKey } = useCatalogue();
  const trial = withSteps(document, [...stepsOf(document, layer).slice(0, at), ...steps], layer);
  const ref = useRef<HTMLButtonElement>(null);
  const { url, failed } = useTriedLook(document, trial, { at, steps, looksAround: looksAround(steps, byKey) }, layer, useInSight(ref));
  return (
    <button ref={ref} type="button" className={`bare find family-${choice.family}`} title={choice.purpose} onClick={onTake}>
      {url ? <img src={url} alt="" /> : <span className="blank">{failed ? "not here" : ""}</span>}
      <span>
        {choice.name}
        {choice.note && <small>{choice.note}</small>}
      </span>
    </button>
  );
}
