import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api, type CatalogueData, type Kind, type ShapeKind, take } from "../api/client";

type Role = NonNullable<Kind["role"]>;

export interface Catalogue extends CatalogueData {
  byKey: Map<string, Kind>;
  /** The kind that is this to others. */
  byRole: (role: Role) => Kind | undefined;
  /** The shapes of a where by their kind. */
  shapeOf: Map<string, ShapeKind>;
}

const EMPTY: CatalogueData = {
  kinds: [],
  sources: [],
  shapes: [],
  where: [],
  place: [],
  box: [],
  box_bonds: [],
  most_layers: Number.POSITIVE_INFINITY,
  most_steps: Number.POSITIVE_INFINITY,
  tile: [],
  keep: [],
  formula: { functions: [], constants: [], variables: [] },
  blends: [],
  starts: [],
  several: [],
  figure: [],
  missing: [],
  upload_bytes: Number.POSITIVE_INFINITY,
};

/** The catalogue, the one list of everything: fetched once. */
export function useCatalogue(): Catalogue {
  const { data = EMPTY } = useQuery({
    queryKey: ["catalogue"],
    queryFn: () => take(api.GET("/api/v1/catalogue")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return useMemo(
    () => ({
      ...data,
      byKey: new Map(data.kinds.map((kind) => [kind.key, kind])),
      byRole: (role) => data.kinds.find((kind) => kind.role === role),
      shapeOf: new Map(data.shapes.map((shape) => [shape.key, shape])),
    }),
    [data],
  );
}
