import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, type FormulaWords, type Kind, type Run, type Source, type Start, take } from "../api/client";

export interface Catalogue {
  kinds: Kind[];
  byKey: Map<string, Kind>;
  sources: Source[];
  formula: FormulaWords;
  blends: string[];
  starts: Start[];
  runs: Run[];
}

const none: Kind[] = [];
const noWords: FormulaWords = { functions: [], constants: [], variables: [] };

/** The catalogue: fetched once. */
export function useCatalogue(): Catalogue {
  const { data } = useQuery({
    queryKey: ["catalogue"],
    queryFn: () => take(api.GET("/api/catalogue")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  const kinds = data?.kinds ?? none;
  const byKey = useMemo(() => new Map(kinds.map((kind) => [kind.key, kind])), [kinds]);
  return {
    kinds,
    byKey,
    sources: data?.sources ?? [],
    formula: data?.formula ?? noWords,
    blends: data?.blends ?? [],
    starts: data?.starts ?? [],
    runs: data?.runs ?? [],
  };
}
