import { useQuery } from "@tanstack/react-query";
import { makeStretches } from "../api/client";
import { useBlobUrl } from "../shared/useBlobUrl";
import { useCatalogue } from "../shared/useCatalogue";
import { layerOf, type PieceDocument, type Step, stepsBefore } from "./model/piece";
import { useBenchPart } from "./store";

const SIZE = 640;
const THRESHOLDS = new Set(["low", "high", "shortest", "longest", "breaks"]);

/** The stretches that a pixel sort finds, as a tint over the picture: while a threshold is dragged, or as long as they are asked for. */
export function useStretches(document: PieceDocument, step: Step | undefined): string | null {
  const { byKey } = useCatalogue();
  const { layer, stretchesShown, dragging, draggedSetting } = useBenchPart("layer", "stretchesShown", "dragging", "draggedSetting");
  const shows = Boolean(step && byKey.get(step.kind)?.shows);
  const wanted = shows && (stretchesShown || (dragging && THRESHOLDS.has(draggedSetting ?? "")));
  const { source, id } = layerOf(document, layer);
  const before = stepsBefore(document, layer, step);
  const { data } = useQuery({
    queryKey: ["stretches", JSON.stringify([source, before, step?.settings])],
    queryFn: ({ signal }) => makeStretches({ document: document, layer: id, step: step?.id ?? "", size: SIZE }, signal),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 5_000,
    placeholderData: (old) => old,
    retry: false,
  });
  return useBlobUrl(wanted ? data?.blob : undefined);
}
