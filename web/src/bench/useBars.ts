import { useQuery } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { useCatalogue } from "../shared/useCatalogue";
import type { Bar } from "./model/bars";
import { layerOf, type PieceDocument, type Step, stepsBefore } from "./model/piece";
import { useBench } from "./store";

const asBody = (document: PieceDocument) => document;

/** The bars of a slices step: its own, or those that its seed draws on the picture before it. */
export function useBars(document: PieceDocument, step: Step | undefined): Bar[] | undefined {
  const layer = useBench((state) => state.layer);
  const { byKey } = useCatalogue();
  const hasBars = Boolean(step && byKey.get(step.kind)?.settings.some((setting) => setting.unit === "bars"));
  const own = step?.settings.bars as Bar[] | null | undefined;
  const { source, id } = layerOf(document, layer);
  const before = stepsBefore(document, layer, step);
  const { data } = useQuery({
    queryKey: ["bars", JSON.stringify([source, before, step?.settings])],
    queryFn: () => take(api.POST("/api/bars", { body: { document: asBody(document), layer: id, step: step?.id ?? "" } })),
    enabled: hasBars && !own,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
    retry: false,
  });
  return own ?? data?.bars;
}

/** Draw bars again from a seed, the locked ones kept. */
export const drawAgain = async (document: PieceDocument, layer: string, step: string, seed: number): Promise<Bar[]> =>
  (await take(api.POST("/api/bars", { body: { document: asBody(document), layer, step, again: seed } }))).bars;
