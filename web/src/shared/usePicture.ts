import pLimit from "p-limit";
import { makeLook } from "../api/client";
import type { PieceDocument } from "../bench/model/piece";
import { useStageQuery } from "../bench/stages/useStageQuery";
import { pictureOf } from "../bench/stages/useStages";
import { useBlobUrl } from "./useBlobUrl";

/** At most two small looks are computed at once, so that the big one keeps room. */
const inLine = pLimit(2);

interface Wanted {
  document: PieceDocument;
  /** How many steps of the layer, alone; null for the finished piece. */
  upto: number | null;
  layer?: string | null;
  size: number;
  wanted?: boolean;
  /** Where it is shown: there the last picture stays until the next is there. */
  place?: string;
  /** Steps that are only tried: after which of the layer's own they come, what they are, and whether they look at more than their input. */
  tried?: { document: PieceDocument; at: number; steps: unknown; looksAround: boolean };
}

/** A small picture of a stage of a document, as an object URL. */
export function usePicture({ document, upto, layer = null, size, wanted = true, place, tried }: Wanted) {
  const { data, failed } = useStageQuery({
    what: ["picture", size],
    document,
    of: (stages) => {
      const before = pictureOf(stages, document, tried?.at ?? upto, layer);
      if (!tried) return before;
      const around = tried.looksAround && layer ? stages.entries[layer]?.around : null;
      return before && JSON.stringify([before, around, tried.steps]);
    },
    ask: (signal) =>
      inLine(() => makeLook({ document: tried?.document ?? document, upto, layer, size, draft: true, bench: "", turn: 0 }, signal)),
    wanted,
    ...(place === undefined ? {} : { place }),
  });
  return { url: useBlobUrl(data?.blob), failed };
}
