import { api, type StageReading, take } from "../api/client";
import { layerOf, type PieceDocument } from "./model/piece";
import { useStageQuery } from "./stages/useStageQuery";
import { pictureOf } from "./stages/useStages";
import { useBench } from "./store";

/** The reading of the picture as it is after the first `upto` steps. */
export function useReading(document: PieceDocument, upto: number, layer: string | null): StageReading | undefined {
  const rests = useBench((state) => !state.dragging);
  const { id } = layerOf(document, layer);
  return useStageQuery({
    what: ["reading"],
    document,
    of: (stages) => pictureOf(stages, document, upto, id),
    ask: (signal) => take(api.POST("/api/v1/analyses/readings", { body: { document, upto, layer: id }, signal })),
    wanted: rests,
  }).data;
}
