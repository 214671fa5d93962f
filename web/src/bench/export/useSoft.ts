import { useQuery } from "@tanstack/react-query";
import { makeSoft } from "../../api/client";
import { useBlobUrl } from "../../shared/useBlobUrl";
import { useBenchPart, useRestedDocument } from "../store";

/** Where the piece would be soft in a delivery of the size that is asked about; null while nothing is. */
export function useSoft(): string | null {
  const document = useRestedDocument();
  const { softShown } = useBenchPart("softShown");
  const { data } = useQuery({
    queryKey: ["soft", softShown, JSON.stringify(document.layers)],
    queryFn: ({ signal }) => makeSoft({ document, size: softShown ?? 16 }, signal),
    enabled: softShown !== null,
    gcTime: 5_000,
  });
  return useBlobUrl(softShown === null ? undefined : data?.blob);
}
