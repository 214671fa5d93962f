import type { Kind } from "../api/client";
import { usePicture } from "../shared/usePicture";
import { allLayers, layerOf, type PieceDocument, type Step } from "./model/piece";
import { useBench } from "./store";

const SIZE = 208;

/**
 * A small look of a layer after its first `upto` steps, or of the finished piece (null). A drag has the server to itself; small looks
 * follow when the hand rests.
 */
export function useSmallLook(
  document: PieceDocument,
  upto: number | null,
  layer: string | null = null,
): { url: string | null; failed: boolean } {
  const rests = useBench((state) => !state.dragging);
  const of = upto === null ? null : layerOf(document, layer).id;
  return usePicture({ document, upto, layer: of, size: SIZE, wanted: rests, place: `${of} ${upto}` });
}

/** A small look of a layer with steps that are only tried, after its first `at`. */
export function useTriedLook(
  document: PieceDocument,
  trial: PieceDocument,
  { at, steps, looksAround }: { at: number; steps: Step[]; looksAround: boolean },
  layer: string | null,
  wanted = true,
): { url: string | null; failed: boolean } {
  const rests = useBench((state) => !state.dragging);
  const tried = { document: trial, at, steps, looksAround };
  return usePicture({
    document,
    upto: at + steps.length,
    layer: layerOf(document, layer).id,
    size: SIZE,
    wanted: rests && wanted,
    place: "tried",
    tried,
  });
}

/** Whether any of these steps looks at more than what comes before it: at what lies under its layer, another layer, or areas that are kept. */
export const looksAround = (steps: Step[], byKey: Map<string, Kind>): boolean =>
  steps.some((step) => {
    const kind = byKey.get(step.kind);
    return !kind || kind.grounded || kind.guide_layer !== null || kind.respects_keep;
  });

/** Whether any layer lies on others. */
export const isLayered = (document: PieceDocument): boolean => allLayers(document).length > 1;
