import { useCatalogue } from "../shared/useCatalogue";
import { type Settings, type Step, stepsOf } from "./model/piece";
import { effectiveNumber } from "./model/settings";
import { entryStages, useStages } from "./stages/useStages";
import { useBench, useRestedDocument } from "./store";

/** What the core fills in of settings that the steps of a layer leave to those before them, by step. */
function useEntry(layer: string | null) {
  const document = useRestedDocument();
  return entryStages(useStages(document).lately, document, layer);
}

/** A step's settings with those that are left to the steps before it, as the core fills them in. */
export function useInForce(step: Step | undefined): Settings {
  const layer = useBench((state) => state.layer);
  const follows = useEntry(layer)?.steps[step?.id ?? ""]?.follows ?? {};
  const free = Object.entries(follows).filter(([name]) => step?.settings[name] == null);
  return free.length ? { ...step?.settings, ...(Object.fromEntries(free) as Settings) } : (step?.settings ?? {});
}

/** The step of a layer that wraps the picture round a centre, nearest before another step, or the last of all; undefined where there is none. */
export function useRingBefore(layer: string | null, step?: string): Step | undefined {
  const document = useRestedDocument();
  const entry = useEntry(layer);
  const id = step === undefined ? entry?.ring : entry?.steps[step]?.ring;
  return id ? stepsOf(document, layer).find((one) => one.id === id) : undefined;
}

/** The middle of that; null where there is none. */
export function useRingCentre(layer: string | null, step?: string): { x: number; y: number } | null {
  const ring = useRingBefore(layer, step);
  const { byKey } = useCatalogue();
  const kind = ring && byKey.get(ring.kind);
  return ring && kind ? { x: effectiveNumber(kind, ring.settings, "x"), y: effectiveNumber(kind, ring.settings, "y") } : null;
}
