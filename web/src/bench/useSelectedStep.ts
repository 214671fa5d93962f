import { useCatalogue } from "../shared/useCatalogue";
import { stepsOf } from "./model/piece";
import { useBenchPart, useDocument } from "./store";

/** The selected step of the layer that is worked on: its kind, its place, and how many there are; no step where something else is selected. */
export function useSelectedStep() {
  const { selected, layer } = useBenchPart("selected", "layer");
  const document = useDocument();
  const { byKey } = useCatalogue();
  const steps = stepsOf(document, layer);
  const index = steps.findIndex((one) => one.id === selected);
  const step = steps[index];
  return { step, kind: step && byKey.get(step.kind), index, count: steps.length, layer, selected };
}
