import { makeStretches } from "../api/client";
import { useBlobUrl } from "../shared/useBlobUrl";
import { useCatalogue } from "../shared/useCatalogue";
import { layerOf, type PieceDocument, type Step } from "./model/piece";
import { useStageQuery } from "./stages/useStageQuery";
import { useBenchPart } from "./store";

const SIZE = 640;
const THRESHOLDS = new Set(["low", "high", "shortest", "longest", "breaks"]);

/** The stretches that a pixel sort finds, as a tint over the picture: while a threshold is dragged, or as long as they are asked for. */
export function useStretches(document: PieceDocument, step: Step | undefined): string | null {
  const { byKey } = useCatalogue();
  const { layer, stretchesShown, dragging, draggedSetting } = useBenchPart("layer", "stretchesShown", "dragging", "draggedSetting");
  const shows = Boolean(step && byKey.get(step.kind)?.shows);
  const wanted = shows && (stretchesShown || (dragging && THRESHOLDS.has(draggedSetting ?? "")));
  const { id } = layerOf(document, layer);
  const { data } = useStageQuery({
    what: ["stretches"],
    document,
    of: (stages) => stages.entries[id]?.steps[step?.id ?? ""]?.answer,
    ask: (signal) => makeStretches({ document, layer: id, step: step?.id ?? "", size: SIZE }, signal),
    wanted,
    place: `${id} ${step?.id}`,
    keep: 5_000,
  });
  return useBlobUrl(wanted ? data?.blob : undefined);
}
