import { useQuery } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { layerOf, stepsBefore } from "./model/piece";
import { useBench, useRestedDocument } from "./store";

/** Where strokes of the selected touch-up betray themselves, while they are to be pointed out. */
export function useDoubles() {
  const document = useRestedDocument();
  const chosen = useBench((state) => state.layer);
  const selected = useBench((state) => state.selected);
  const shown = useBench((state) => state.doublesShown);
  const layer = layerOf(document, chosen);
  const step = layer.steps.find((one) => one.id === selected);
  const { data } = useQuery({
    queryKey: ["doubles", JSON.stringify([layer.source, stepsBefore(document, layer.id, step), step?.settings])],
    queryFn: ({ signal }) => take(api.POST("/api/doubles", { body: { document, layer: layer.id, step: step?.id ?? "" }, signal })),
    enabled: shown && step?.kind === "touch-up",
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  return shown ? data?.doubles : undefined;
}
