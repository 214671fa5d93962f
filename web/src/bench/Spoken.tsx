import { LAYER, SOURCE } from "./model/view";
import { useSelectedStep } from "./useSelectedStep";

/** Says aloud what is selected: a step by its name and its place. */
export function Spoken() {
  const { step, kind, index, count, selected } = useSelectedStep();
  const words = step
    ? `${kind?.label ?? step.kind}, step ${index + 1} of ${count}${step.on === false ? ", off" : ""}`
    : selected === SOURCE
      ? "The photo"
      : selected === LAYER
        ? "The layer"
        : "The whole piece";
  return (
    <p className="visually-hidden" role="status" aria-label="Selected">
      {words}
    </p>
  );
}
