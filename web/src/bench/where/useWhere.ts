import type { Where } from "../model/piece";
import { useBench } from "../store";

/** Change the where of a step (in the layer that is worked on), or of a layer or group. */
export function useWhere(sheet: string, step: string | null): (where: Where | null, gesture?: string) => void {
  const edit = useBench((state) => state.edit);
  return (where, gesture) => {
    const named = gesture ? { gesture: `where-${sheet}-${step}-${gesture}` } : {};
    if (step) edit({ type: "step", step, change: { where }, ...named });
    else edit({ type: "entry", id: sheet, change: { where }, ...named });
  };
}
