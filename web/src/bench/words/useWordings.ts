import { useQuery } from "@tanstack/react-query";
import { api, take } from "../../api/client";
import { allLayers, type PieceDocument } from "../model/piece";
import { useRestedDocument } from "../store";

const hasWords = (document: PieceDocument) => allLayers(document).some(({ source }) => source.kind === "lettering");

/** Where the words of the piece lie, the topmost first, and whether all of them are seen; the last answer until the next is there. */
export function useWordings() {
  const document = useRestedDocument();
  const { data } = useQuery({
    queryKey: ["words", JSON.stringify(document)],
    queryFn: ({ signal }) => take(api.POST("/api/words", { body: { document }, signal })),
    enabled: hasWords(document),
    placeholderData: (last) => last,
    gcTime: 5_000,
    retry: false,
  });
  return data?.words ?? [];
}
