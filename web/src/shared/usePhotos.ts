import { useQuery } from "@tanstack/react-query";
import { api, type Photo, take } from "../api/client";
import { usePages } from "./usePages";

/** The photos of the Shelf that answer to a search, the newest first; those that suit a use, the best first. */
export const usePhotos = (search: string, use = "", transparent = false) =>
  usePages(["photos", search, use, transparent], (range) =>
    take(api.GET("/api/v1/photos", { params: { query: { search, use, transparent, ...range } } })),
  );

/** The photo of the Shelf that a piece names, if it is there; and whether that is known yet. */
export function useNamedPhoto(name: string | null | undefined): { photo: Photo | undefined; isKnown: boolean } {
  const { data, isFetched } = useQuery({
    queryKey: ["photos", "named", name],
    queryFn: () => take(api.GET("/api/v1/photos", { params: { query: { file_name: name ?? "", limit: 1 } } })),
    enabled: Boolean(name),
  });
  return { photo: data?.items[0], isKnown: isFetched };
}

/** The photo of the Shelf that a piece names, if it is there. */
export const usePhoto = (name: string | null | undefined): Photo | undefined => useNamedPhoto(name).photo;
