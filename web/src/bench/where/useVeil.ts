import { useQuery } from "@tanstack/react-query";
import { makeSheet } from "../../api/client";
import { useBlobUrl } from "../../shared/useBlobUrl";
import type { PieceDocument, Where } from "../model/piece";

const SIZE = 640;

/** The tint that shows where a where is, as the server reckons it; the last one stays until the next is there. */
export function useVeil(document: PieceDocument, layer: string, step: string | null, where: Where | null): string | null {
  const { data } = useQuery({
    queryKey: ["veil", JSON.stringify(where), layer, step, JSON.stringify(document.layers.map((entry) => ({ ...entry, where: null })))],
    queryFn: ({ signal }) => makeSheet("/api/veils", { document: document, layer, step, size: SIZE }, signal),
    enabled: where !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    placeholderData: (old) => old,
    retry: false,
  });
  return useBlobUrl(where === null ? undefined : data?.blob);
}
