import { useCatalogue } from "../shared/useCatalogue";
import { stepsOf } from "./model/piece";
import { LAYER, SOURCE } from "./model/view";
import { useBenchPart, useDocument } from "./store";

/** Says aloud what is selected: a step by its name and its place. */
export function Spoken() {
  const { selected, layer } = useBenchPart("selected", "layer");
  const document = useDocument();
  const { byKey } = useCatalogue();
  const steps = stepsOf(document, layer);
  const index = steps.findIndex((step) => step.id === selected);
  const step = steps[index];
  const words = step
    ? `${byKey.get(step.kind)?.label ?? step.kind}, step ${index + 1} of ${steps.length}${step.on === false ? ", off" : ""}`
    : selected === SOURCE
      ? "The photo"
      : selected === LAYER
        ? "The layer"
        : "The finished picture";
  return (
    <p className="visually-hidden" role="status" aria-label="Selected">
      {words}
    </p>
  );
}
