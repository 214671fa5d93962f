import type { Photo } from "../api/client";
import { ReadingOverlay } from "../shared/ReadingOverlay";
import "./ReadingPicture.css";

/** The photo with what its reading means drawn on it. */
export function ReadingPicture({ photo }: { photo: Photo }) {
  return (
    <div className="reading-picture">
      <img src={photo.preview} alt={photo.name} />
      <ReadingOverlay reading={photo.reading} />
    </div>
  );
}
