import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { makeRuns } from "../api/client";
import { layerOf, type PieceDocument, type Step } from "./model/piece";
import { useBench } from "./store";

const SIZE = 640;
const THRESHOLDS = new Set(["low", "high", "shortest", "longest", "breaks"]);

/** The runs that a pixel sort finds, as a tint over the picture: while a threshold is dragged, or as long as they are asked for. */
export function useRuns(document: PieceDocument, step: Step | undefined): string | null {
  const { layer, runsShown, dragging, draggedSetting } = useBench();
  const wanted = step?.kind === "pixel-sort" && (runsShown || (dragging && THRESHOLDS.has(draggedSetting ?? "")));
  const { source, steps, id } = layerOf(document, layer);
  const before = steps
    .slice(
      0,
      steps.findIndex((one) => one.id === step?.id),
    )
    .map(({ id: _, ...rest }) => rest);
  const { data } = useQuery({
    queryKey: ["runs", JSON.stringify([source, before, step?.settings])],
    queryFn: ({ signal }) =>
      makeRuns({ document: document as unknown as Record<string, unknown>, layer: id, step: step?.id ?? "", size: SIZE }, signal),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 5_000,
    placeholderData: (old) => old,
    retry: false,
  });
  const [url, setUrl] = useState<string | null>(null);
  const blob = wanted ? data?.blob : undefined;
  useEffect(() => {
    if (!blob) {
      setUrl(null);
      return;
    }
    const made = URL.createObjectURL(blob);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  return url;
}
