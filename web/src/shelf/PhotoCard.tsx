import { memo, useRef } from "react";
import type { Photo } from "../api/client";
import { framed } from "../shared/framing";
import { useNear } from "../shared/useNear";
import { CardPick } from "./CardPick";

const USUAL = 248;

interface Props {
  photo: Photo;
  chosen: boolean;
  picked: boolean;
  tab: 0 | -1;
  /** With whether a key did it. */
  onChoose: (id: string, keyed: boolean) => void;
  onPick: (id: string, through: boolean) => void;
}

/** A photo on the Shelf; choosing it shows its reading, picking it puts it among others. */
export const PhotoCard = memo(function PhotoCard({ photo, chosen, picked, tab, onChoose, onPick }: Props) {
  const ref = useRef<HTMLElement>(null);
  const { near, height } = useNear(ref, USUAL);
  return (
    <article ref={ref} className={`card ${chosen ? "chosen" : ""} ${picked ? "picked" : ""}`} style={near ? undefined : { height }}>
      {near && (
        <>
          <button
            type="button"
            className="bare card-open"
            aria-pressed={chosen}
            tabIndex={tab}
            data-roving={photo.id}
            onClick={({ detail }) => onChoose(photo.id, detail === 0)}
          >
            <img
              className={`card-picture ${photo.transparent ? "whole" : ""}`}
              src={photo.thumbnail}
              alt=""
              style={{ objectPosition: framed(photo.reading) }}
            />
            <span className="card-body">
              <strong className="clip" title={photo.name}>
                {photo.name}
              </strong>
              <span className="quiet small">{photo.reading.words}</span>
            </span>
          </button>
          <CardPick name={photo.name} picked={picked} tab={tab} onPick={(through) => onPick(photo.id, through)} />
        </>
      )}
    </article>
  );
});
