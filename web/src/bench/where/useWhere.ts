import { keepOf, layerOf, type Where } from "../model/piece";
import { NOWHERE } from "../model/where";
import { useBenchPart } from "../store";

/** Change the where of a step (in the layer that is worked on), of a layer or group, or of a keep area of a layer's photo. */
export function useWhere(sheet: string, step: string | null, area: number | null = null): (where: Where | null, gesture?: string) => void {
  const { edit, history } = useBenchPart("edit", "history");
  return (where, gesture) => {
    const named = gesture ? { gesture: `where-${sheet}-${step}-${area}-${gesture}` } : {};
    if (area !== null) {
      const keep = keepOf(layerOf(history.present.document, sheet).source);
      const next = keep.map((one, n) => (n === area ? { ...one, where: where ?? NOWHERE } : one));
      edit({ type: "source", layer: sheet, settings: { keep: next }, ...named });
      return;
    }
    if (step) edit({ type: "step", step, change: { where }, ...named });
    else edit({ type: "entry", id: sheet, change: { where }, ...named });
  };
}
