import { api, take } from "../api/client";
import { useCatalogue } from "../shared/useCatalogue";
import type { Bar } from "./model/bars";
import type { DrawnFor } from "./model/edits";
import { layerOf, type PieceDocument, type Step } from "./model/piece";
import { useStageQuery } from "./stages/useStageQuery";
import { useBench } from "./store";

export interface Bars {
  bars: Bar[] | undefined;
  /** What they were drawn for, where a seed drew them: null while those of this step are on their way. */
  drawnFor: DrawnFor;
}

/** The bars of a step that has some: its own, or those that its seed draws on the picture before it. */
export function useBars(document: PieceDocument, step: Step | undefined): Bars {
  const layer = useBench((state) => state.layer);
  const { byKey } = useCatalogue();
  const hasBars = Boolean(step && byKey.get(step.kind)?.settings.some((setting) => setting.widget === "bars"));
  const own = step?.settings.bars as Bar[] | null | undefined;
  const { id } = layerOf(document, layer);
  const { data, of } = useStageQuery({
    what: ["bars"],
    document,
    of: (stages) => stages.entries[id]?.steps[step?.id ?? ""]?.answer,
    ask: (signal) => take(api.POST("/api/v1/analyses/bars", { body: { document, layer: id, step: step?.id ?? "" }, signal })),
    wanted: hasBars && !own,
    place: `${id} ${step?.id}`,
  });
  return own ? { bars: own, drawnFor: undefined } : { bars: data?.bars, drawnFor: of === null ? null : document };
}

/** Draw bars again from a seed, the locked ones kept. */
export const drawAgain = async (document: PieceDocument, layer: string, step: string, seed: number): Promise<Bar[]> =>
  (await take(api.POST("/api/v1/analyses/bars", { body: { document, layer, step, again: seed } }))).bars;
