import { useQuery } from "@tanstack/react-query";
import { makeClipped } from "../api/client";
import { useBlobUrl } from "../shared/useBlobUrl";
import { layerOf, type PieceDocument, type Step, stepsBefore } from "./model/piece";
import { useBenchPart } from "./store";

const SIZE = 768;

/** Where the selected step loses dark and light tones, as long as that is asked for. */
export function useClipped(document: PieceDocument, step: Step | undefined): string | null {
  const { layer, clippedShown } = useBenchPart("layer", "clippedShown");
  const { source, id } = layerOf(document, layer);
  const before = stepsBefore(document, layer, step);
  const wanted = clippedShown && Boolean(step);
  const { data } = useQuery({
    queryKey: ["clipped", JSON.stringify([source, before, step?.kind, step?.settings])],
    queryFn: ({ signal }) => makeClipped({ document: document, layer: id, step: step?.id ?? "", size: SIZE }, signal),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 5_000,
    retry: false,
  });
  return useBlobUrl(wanted ? data?.blob : undefined);
}
