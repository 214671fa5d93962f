import { useQuery } from "@tanstack/react-query";
import { api, take } from "../api/client";
import { useSettled } from "../recipes/useSettled";

interface Asked {
  recipe: string;
  photos: string[];
  dials: Record<string, number>;
  slots: Record<string, string>;
  size: number;
}

/** How many files of a run would be larger than their photos are good for, and up to which size all are sharp. */
export function useSharpness(asked: Asked): { enlarged: number; sharp: number | null } | undefined {
  const body = useSettled(JSON.stringify(asked));
  const { data } = useQuery({
    queryKey: ["photos", "sharpness", body],
    queryFn: ({ signal }) => take(api.POST("/api/v1/runs/estimates", { body: JSON.parse(body) as Asked, signal })),
    enabled: asked.photos.length > 0,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (old) => old,
    retry: false,
  });
  return data;
}
