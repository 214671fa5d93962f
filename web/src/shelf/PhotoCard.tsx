import type { Photo } from "../api/client";

/** A photo on the Shelf; choosing it shows its reading. */
export function PhotoCard({ photo, chosen, onChoose }: { photo: Photo; chosen: boolean; onChoose: () => void }) {
  return (
    <button type="button" className={`bare card ${chosen ? "chosen" : ""}`} aria-pressed={chosen} onClick={onChoose}>
      <img className={`card-picture ${photo.transparent ? "whole" : ""}`} src={photo.preview} alt="" loading="lazy" />
      <span className="card-body">
        <strong className="clip" title={photo.name}>
          {photo.name}
        </strong>
        <span className="quiet small">{photo.reading.words}</span>
      </span>
    </button>
  );
}
