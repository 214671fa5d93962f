import { usePicture } from "../shared/usePicture";
import { allLayers, layerOf, type PieceDocument, stepsOf } from "./model/piece";
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
  const { source } = layerOf(document, layer);
  const steps = stepsOf(document, layer).slice(0, upto ?? undefined);
  const alone = [source, steps.map(({ id: _, ...rest }) => rest)];
  // What lies below counts where the layer begins with it or looks at it; a tiled one fills the piece's frame.
  const looks = steps.some((step) => typeof step.settings.by === "string");
  const depends = upto === null || source.kind === "below" || source.fit === "tile" || looks;
  const shows = JSON.stringify(depends ? [alone, document, upto] : alone);
  return usePicture(document, upto, SIZE, shows, enabled && wanted, upto === null ? null : layerOf(document, layer).id);
}

/** Whether any layer lies on others. */
export const isLayered = (document: PieceDocument): boolean => allLayers(document).length > 1;
