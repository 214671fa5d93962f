import { useQuery } from "@tanstack/react-query";
import { api, take } from "../api/client";
import type { PieceDocument } from "./model/piece";
import { allEntries, isGroup } from "./model/piece";

/** The shapes of the piece and of its layers after each step; asked again only when something that can change them did. */
export function useFrames(document: PieceDocument, enabled: boolean) {
  const shaping = allEntries(document.layers).map((entry) =>
    isGroup(entry) ? entry.id : [entry.id, entry.source, entry.steps.map((step) => [step.kind, step.on, step.settings])],
  );
  const { data } = useQuery({
    queryKey: ["frames", JSON.stringify([document.frame, shaping])],
    queryFn: () => take(api.POST("/api/frames", { body: { document: document } })),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
    retry: false,
  });
  return data;
}
