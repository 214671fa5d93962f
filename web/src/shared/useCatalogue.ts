import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, type Kind, type Run, type Start, take } from "../api/client";

export interface Catalogue {
  kinds: Kind[];
  byKey: Map<string, Kind>;
  starts: Start[];
  runs: Run[];
}

const none: Kind[] = [];

/** The catalogue: fetched once. */
export function useCatalogue(): Catalogue {
  const { data } = useQuery({
    queryKey: ["catalogue"],
    queryFn: () => take(api.GET("/api/catalogue")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const kinds = data?.kinds ?? none;
  const byKey = useMemo(() => new Map(kinds.map((kind) => [kind.key, kind])), [kinds]);
  return { kinds, byKey, starts: data?.starts ?? [], runs: data?.runs ?? [] };
}
