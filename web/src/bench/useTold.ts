import { useQuery } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { useCatalogue } from "../shared/useCatalogue";
import { layerOf, stepsBefore } from "./model/piece";
import { useBench, useRestedDocument } from "./store";

/** What the selected step found out about its input, as far as it tells: the visibility of a seam, the colour of a rim. */
export function useTold(): Record<string, unknown> | undefined {
  const document = useRestedDocument();
  const chosen = useBench((state) => state.layer);
  const selected = useBench((state) => state.selected);
  const { byKey } = useCatalogue();
  const layer = layerOf(document, chosen);
  const step = layer.steps.find((one) => one.id === selected);
  const mine = `${layer.id} ${step?.id}`;
  const { data } = useQuery({
    // What lies under a layer counts as well where one of its steps looks at it.
    queryKey: [
      "told",
      mine,
      JSON.stringify([
        layer.source,
        stepsBefore(document, layer.id, step),
        step?.kind,
        step?.settings,
        layer.steps.some((one) => one.kind === "belong") && document.layers,
      ]),
    ],
    queryFn: ({ signal }) => take(api.POST("/api/told", { body: { document, layer: layer.id, step: step?.id ?? "" }, signal })),
    enabled: Boolean(step && byKey.get(step.kind)?.tells),
    staleTime: Number.POSITIVE_INFINITY,
    // What another step found says nothing of this one.
    placeholderData: (old, query) => (query?.queryKey[1] === mine ? old : undefined),
    retry: false,
  });
  return data?.told;
}
