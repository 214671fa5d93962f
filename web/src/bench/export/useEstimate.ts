import { useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import { api, type ExportOptions, take } from "../../api/client";
import { useRestedDocument } from "../store";

/** What an export would be: its pixels, about its bytes, and the size up to which the photo is good for it. */
export function useEstimate(options: ExportOptions) {
  const document = useRestedDocument();
  // A title makes no file heavier.
  const { title: _, author: __, ...weighs } = useDeferredValue(options);
  return useQuery({
    queryKey: ["estimate", JSON.stringify([document, weighs])],
    queryFn: ({ signal }) => take(api.POST("/api/v1/export-estimates", { body: { document, options: { ...options, ...weighs } }, signal })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
    retry: false,
  });
}
