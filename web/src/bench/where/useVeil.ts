import { useQuery } from "@tanstack/react-query";
import { makeVeil } from "../../api/client";
import { useBlobUrl } from "../../shared/useBlobUrl";
import type { PieceDocument, Where } from "../model/piece";

const SIZE = 640;
const BY_TONE = new Set(["light", "hue", "bands"]);

/** What shows where a where is, its edge or a tint, as the server reckons it; the last one stays until the next is there. */
export function useVeil(document: PieceDocument, layer: string, step: string | null, where: Where | null): string | null {
  // What shapes bound has an edge; what goes by tones lies everywhere between, and only a tint shows it.
  const edge = where?.shapes.every((shape) => !BY_TONE.has(shape.kind)) ?? false;
  const { data } = useQuery({
    queryKey: ["veil", JSON.stringify(where), layer, step, JSON.stringify(document.layers.map((entry) => ({ ...entry, where: null })))],
    queryFn: ({ signal }) => makeVeil({ document: document, layer, step, size: SIZE, edge }, signal),
    enabled: where !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 20_000,
    placeholderData: (old) => old,
    retry: false,
  });
  return useBlobUrl(where === null ? undefined : data?.blob);
}
