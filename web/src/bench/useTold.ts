import { api, take } from "../api/client";
import { useCatalogue } from "../shared/useCatalogue";
import { layerOf } from "./model/piece";
import { useStageQuery } from "./stages/useStageQuery";
import { useBench, useRestedDocument } from "./store";

/** What the selected step found out about its input, as far as it tells: the visibility of a seam, the colour of a rim. */
export function useTold(): Record<string, unknown> | undefined {
  const document = useRestedDocument();
  const chosen = useBench((state) => state.layer);
  const selected = useBench((state) => state.selected);
  const { byKey } = useCatalogue();
  const layer = layerOf(document, chosen);
  const step = layer.steps.find((one) => one.id === selected);
  return useStageQuery({
    what: ["told"],
    document,
    of: (stages) => stages.entries[layer.id]?.steps[step?.id ?? ""]?.answer,
    ask: (signal) => take(api.POST("/api/v1/analyses/steps", { body: { document, layer: layer.id, step: step?.id ?? "" }, signal })),
    wanted: Boolean(step && byKey.get(step.kind)?.tells),
    place: `${layer.id} ${step?.id}`,
  }).data?.found;
}
