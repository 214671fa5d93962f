import type { Photo } from "../../api/client";
import { More } from "../../shared/More";
import type { usePhotos } from "../../shared/usePhotos";

/** The photos of the Shelf to choose from. */
export function PhotoGrid({
  photos,
  label,
  onTake,
}: {
  photos: ReturnType<typeof usePhotos>;
  label: string;
  onTake: (photo: Photo) => void;
}) {
  return (
    <>
      <div className="finder-grid">
        {photos.items.map((photo) => (
          <button
            key={photo.id}
            type="button"
            className="bare find"
            // What answers an earlier search is about to move: a press would miss it.
            disabled={photos.isOld}
            aria-label={`${label} ${photo.name}${photo.transparent ? " cut-out" : ""}`}
            onClick={() => onTake(photo)}
          >
            <img src={photo.thumbnail} alt="" />
            <span>
              {photo.name}
              {photo.transparent && <small>cut-out</small>}
            </span>
          </button>
        ))}
      </div>
      <More pages={photos} />
    </>
  );
}
