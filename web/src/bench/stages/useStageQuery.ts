import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import type { Stages } from "../../api/client";
import type { PieceDocument } from "../model/piece";
import { useStages } from "./useStages";

interface Asked<Answer> {
  /** What is asked, and how: its size, or the like. */
  what: (string | number | null)[];
  /** The document whose stages say what the answer depends on. */
  document: PieceDocument;
  /** What identifies the answer; undefined where there is none. */
  of: (stages: Stages) => string | undefined | null;
  ask: (signal: AbortSignal) => Promise<Answer>;
  wanted?: boolean;
  /** Where it is shown: there the last answer stays until the next is there. Without it, none does. */
  place?: string;
  /** Milliseconds that an answer nobody shows is kept. */
  keep?: number;
}

export interface Answered<Answer> {
  /** The answer, or the last one of this place. */
  data: Answer | undefined;
  /** What the answer was asked for; null while it is not the one wanted. */
  of: string | null;
  failed: boolean;
}

/**
 * Asks for something about a stage of a piece, and keeps it under what the core says it depends on: never another stage's is shown, and
 * nothing that is the same is asked for again.
 */
export function useStageQuery<Answer>({ what, document, of, ask, wanted = true, place, keep = 120_000 }: Asked<Answer>): Answered<Answer> {
  const stages = useStages(document, wanted).exact;
  const identity = (stages && of(stages)) ?? null;
  const { data, isError } = useQuery({
    queryKey: ["stage", ...what, identity],
    queryFn: ({ signal }) => ask(signal),
    enabled: wanted && identity !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: keep,
    retry: false,
  });
  const last = useRef<{ place: string | undefined; data: Answer } | null>(null);
  useEffect(() => {
    if (data !== undefined) last.current = { place, data };
  }, [place, data]);
  if (data !== undefined) return { data, of: identity, failed: false };
  const kept = place !== undefined && last.current?.place === place ? last.current.data : undefined;
  return { data: kept, of: null, failed: isError };
}
