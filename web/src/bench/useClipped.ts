import { makeClipped } from "../api/client";
import { useBlobUrl } from "../shared/useBlobUrl";
import { layerOf, type PieceDocument, type Step } from "./model/piece";
import { useStageQuery } from "./stages/useStageQuery";
import { useBenchPart } from "./store";

const SIZE = 768;

/** Where the selected step loses dark and light tones, as long as that is asked for. */
export function useClipped(document: PieceDocument, step: Step | undefined): string | null {
  const { layer, clippedShown } = useBenchPart("layer", "clippedShown");
  const { id, steps } = layerOf(document, layer);
  const at = steps.findIndex((one) => one.id === step?.id);
  const wanted = clippedShown && at >= 0;
  const { data } = useStageQuery({
    what: ["clipped"],
    document,
    of: (stages) => stages.entries[id]?.after.slice(at, at + 2).join(" "),
    ask: (signal) => makeClipped({ document, layer: id, step: step?.id ?? "", size: SIZE }, signal),
    wanted,
    keep: 5_000,
  });
  return useBlobUrl(wanted ? data?.blob : undefined);
}
