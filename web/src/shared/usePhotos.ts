import { useQuery } from "@tanstack/react-query";
import { api, type Photo, take } from "../api/client";
import { usePages } from "./usePages";

/** The photos of the Shelf that answer to a search, the newest first. */
export const usePhotos = (search: string) =>
  usePages(["photos", search], (range) => take(api.GET("/api/photos", { params: { query: { search, ...range } } })));

/** The photo of the Shelf that a piece names, if it is there. */
export function usePhoto(name: string | null | undefined): Photo | undefined {
  const { data } = useQuery({
    queryKey: ["photos", "named", name],
    queryFn: () => take(api.GET("/api/photos", { params: { query: { file_name: name ?? "", limit: 1 } } })),
    enabled: Boolean(name),
  });
  return data?.items[0];
}
