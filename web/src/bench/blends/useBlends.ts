import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { makeSheet } from "../../api/client";
import type { PieceDocument } from "../model/piece";

interface Sheet {
  url: string;
  width: number;
  height: number;
}

/** One picture with the piece in every blend mode below each other, and the size of each. */
export function useBlends(document: PieceDocument, layer: string, step: string | null, size: number, enabled: boolean): Sheet | null {
  const { data } = useQuery({
    queryKey: ["blends", JSON.stringify(document), layer, step, size],
    queryFn: ({ signal }) => makeSheet({ document: document, layer, step, size }, signal),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 30_000,
    placeholderData: (old) => old,
    retry: false,
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
