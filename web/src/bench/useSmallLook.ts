import { usePicture } from "../shared/usePicture";
import { allLayers, layerOf, type PieceDocument, showsOf } from "./model/piece";
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
  wanted = true,
): { url: string | null; failed: boolean } {
  const enabled = useBench((state) => !state.dragging);
  return usePicture(
    document,
    upto,
    SIZE,
    showsOf(document, upto, layer),
    enabled && wanted,
    upto === null ? null : layerOf(document, layer).id,
  );
}

/** Whether any layer lies on others. */
export const isLayered = (document: PieceDocument): boolean => allLayers(document).length > 1;
