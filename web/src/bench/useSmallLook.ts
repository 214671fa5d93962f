import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { makeLook } from "../api/client";
import { layerOf, type PieceDocument, stepsOf } from "./model/piece";
import { useBench } from "./store";

const SIZE = 208;
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

/** A small look of a document after its first `upto` steps, as an object URL; kept by what it shows. */
export function useSmallLook(document: PieceDocument, upto: number): { url: string | null; failed: boolean } {
  // A drag has the server to itself; the cards follow when the hand rests.
  const enabled = useBench((state) => !state.dragging);
  const shows = JSON.stringify([
    layerOf(document).source.photo,
    stepsOf(document)
      .slice(0, upto)
      .map(({ id: _, ...rest }) => rest),
  ]);
  const query = useQuery({
    queryKey: ["small-look", shows],
    queryFn: ({ signal }) => inLine(() => makeLook({ document, upto, size: SIZE, draft: true, bench: "", turn: 0 }, signal)),
    enabled,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 120_000,
    placeholderData: (old) => old,
    retry: false,
  });
  const [url, setUrl] = useState<string | null>(null);
  const blob = query.data?.blob;
  useEffect(() => {
    if (!blob) return;
    const made = URL.createObjectURL(blob);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [blob]);
  return { url, failed: query.isError };
}
