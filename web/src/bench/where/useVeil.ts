import { makeVeil } from "../../api/client";
import { useBlobUrl } from "../../shared/useBlobUrl";
import type { PieceDocument, Where } from "../model/piece";
import { useStageQuery } from "../stages/useStageQuery";

const SIZE = 640;
const BY_TONE = new Set(["light", "hue", "bands"]);

/** What shows where a where is, its edge or a tint, as the server reckons it; the last one stays until the next is there. */
export function useVeil(document: PieceDocument, layer: string, step: string | null, where: Where | null): string | null {
  // What shapes bound has an edge; what goes by tones lies everywhere between, and only a tint shows it.
  const edge = where?.shapes.every((shape) => !BY_TONE.has(shape.kind)) ?? false;
  const { data } = useStageQuery({
    what: ["veil", edge ? "edge" : "tint"],
    document,
    of: (stages) => (step === null ? stages.entries[layer]?.where : stages.entries[layer]?.steps[step]?.where),
    ask: (signal) => makeVeil({ document, layer, step, size: SIZE, edge }, signal),
    wanted: where !== null,
    place: `${layer} ${step}`,
    keep: 20_000,
  });
  return useBlobUrl(where === null ? undefined : data?.blob);
}
