import { useQuery } from "@tanstack/react-query";
import { api, type Reading, take } from "../api/client";
import { layerOf, type PieceDocument, stepsOf } from "./model/piece";
import { useBench } from "./store";

/** The reading of the picture as it is after the first `upto` steps. */
export function useReading(document: PieceDocument, upto: number, layer: string | null): Reading | undefined {
  const enabled = useBench((state) => !state.dragging);
  const steps = stepsOf(document, layer)
    .slice(0, upto)
    .map(({ id: _, ...rest }) => rest);
  // Keep areas change nothing in the photo.
  const { keep: _, ...source } = layerOf(document, layer).source;
  const { data } = useQuery({
    queryKey: ["reading", JSON.stringify([source, steps])],
    queryFn: ({ signal }) =>
      take(
        api.POST("/api/readings", {
          body: { document: document, upto, layer: layerOf(document, layer).id },
          signal,
        }),
      ),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return data;
}
