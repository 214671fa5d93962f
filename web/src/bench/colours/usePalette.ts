import { useQuery } from "@tanstack/react-query";
import { api, take } from "../../api/client";
import { useRestedDocument } from "../store";

/** The colours that the finished piece consists of; asked for while they are to be seen. */
export function usePalette(wanted: boolean): string[] {
  const document = useRestedDocument();
  const { data } = useQuery({
    queryKey: ["palette", JSON.stringify(document)],
    queryFn: ({ signal }) => take(api.POST("/api/palettes", { body: { document: document as never }, signal })),
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 60_000,
    placeholderData: (old) => old,
    retry: false,
  });
  return data?.colours ?? [];
}
