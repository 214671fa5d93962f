import { useEffect, useState } from "react";
import { makeSheet } from "../../api/client";
import type { PieceDocument } from "../model/piece";
import { useStageQuery } from "../stages/useStageQuery";

interface Sheet {
  url: string;
  width: number;
  height: number;
}

/** One picture with the piece in every blend mode below each other, and the size of each. */
export function useBlends(document: PieceDocument, layer: string, step: string | null, size: number, enabled: boolean): Sheet | null {
  const { data } = useStageQuery({
    what: ["blends", layer, step, size],
    document,
    of: (stages) => stages.whole,
    ask: (signal) => makeSheet({ document, layer, step, size }, signal),
    wanted: enabled,
    place: `${layer} ${step}`,
    keep: 30_000,
  });
  const [sheet, setSheet] = useState<Sheet | null>(null);
  useEffect(() => {
    if (!data) return;
    const url = URL.createObjectURL(data.blob);
    setSheet({ url, width: data.width, height: data.height });
    return () => URL.revokeObjectURL(url);
  }, [data]);
  return sheet;
}
