import { useQuery } from "@tanstack/react-query";
import { type Document, makeLook } from "../api/client";
import { useBlobUrl } from "./useBlobUrl";

let running = 0;
const line: (() => void)[] = [];

/** Let at most two small looks be computed at once, so that the big one keeps room. */
async function inLine<Result>(work: () => Promise<Result>): Promise<Result> {
  if (running >= 2) await new Promise<void>((go) => line.push(go));
  running += 1;
  try {
    return await work();
  } finally {
    running -= 1;
    line.shift()?.();
  }
}

/** A small picture of a document's first `upto` steps, as an object URL; kept by `shows`, what there is to see. */
export function usePicture(
  document: Document,
  upto: number | null,
  size: number,
  shows: string,
  enabled: boolean,
  layer: string | null = null,
) {
  const query = useQuery({
    queryKey: ["picture", size, shows],
    queryFn: ({ signal }) => inLine(() => makeLook({ document, upto, layer, size, draft: true, bench: "", turn: 0 }, signal)),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 120_000,
    placeholderData: (old) => old,
    retry: false,
  });
  return { url: useBlobUrl(query.data?.blob), failed: query.isError };
}
