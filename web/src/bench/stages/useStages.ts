import { useQuery } from "@tanstack/react-query";
import { api, type EntryIdentities, type Stages, take } from "../../api/client";
import { layerOf, type PieceDocument } from "../model/piece";
import { useBench } from "../store";

const names = new WeakMap<PieceDocument, number>();
let count = 0;

/** A document's stages depend on the photos of the Shelf as well: when those are asked for anew, so are these. */
function keyOf(piece: string | null, document: PieceDocument) {
  if (!names.has(document)) {
    count += 1;
    names.set(document, count);
  }
  return ["photos", "stages", piece, names.get(document)] as const;
}

/**
 * What the core says of every stage of a document: what identifies it. `lately` is what it said of the one before, while this is asked. It is
 * asked while it is wanted, and known as long as it is kept.
 */
export function useStages(document: PieceDocument, wanted = true): { exact: Stages | undefined; lately: Stages | undefined } {
  const piece = useBench((state) => state.pieceId);
  const { data, isPlaceholderData } = useQuery({
    queryKey: keyOf(piece, document),
    queryFn: ({ signal }) => take(api.POST("/api/v1/analyses/identities", { body: { document }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    // What was said of another piece says nothing of this one.
    placeholderData: (old, query) => (query?.queryKey[2] === piece ? old : undefined),
    retry: false,
  });
  return { exact: isPlaceholderData ? undefined : data, lately: data };
}

/** The stages of a layer or group, or of the lowest layer. */
export const entryStages = (stages: Stages | undefined, document: PieceDocument, layer: string | null): EntryIdentities | undefined =>
  stages?.entries[layerOf(document, layer).id];

/** What identifies a layer after its first steps, or the finished piece (null). */
export const pictureOf = (stages: Stages, document: PieceDocument, upto: number | null, layer: string | null): string | undefined =>
  upto === null
    ? stages.delivered
    : entryStages(stages, document, layer)?.after.at(Math.min(upto, (entryStages(stages, document, layer)?.after.length ?? 1) - 1));
