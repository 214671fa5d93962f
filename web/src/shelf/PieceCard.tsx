import { Button } from "antd";
import { memo, useRef } from "react";
import { Link } from "react-router";
import { type PieceRow, thumbnailOf } from "../api/client";
import { useNear } from "../shared/useNear";
import { CardPick } from "./CardPick";
import "./PieceCard.css";

const USUAL = 216;

interface Props {
  piece: PieceRow;
  picked: boolean;
  tab: 0 | -1;
  onPick: (id: string, through: boolean) => void;
  onCopy: (piece: PieceRow) => void;
  onDelete: (piece: PieceRow) => void;
}

/** A piece on the Shelf page; opens its Bench. */
export const PieceCard = memo(function PieceCard({ piece, picked, tab, onPick, onCopy, onDelete }: Props) {
  const ref = useRef<HTMLElement>(null);
  const { near, height } = useNear(ref, USUAL);
  return (
    <article ref={ref} className={`card ${picked ? "picked" : ""}`} style={near ? undefined : { height }}>
      {near && <Inside piece={piece} picked={picked} tab={tab} onPick={onPick} onCopy={onCopy} onDelete={onDelete} />}
    </article>
  );
});

function Inside({ piece, picked, tab, onPick, onCopy, onDelete }: Props) {
  const readable = piece.faults.length === 0;
  return (
    <>
      <div className="piece-top">
        {readable ? (
          <img className="card-picture" src={thumbnailOf(piece.id, piece.revision)} alt="" />
        ) : (
          <span className="card-picture unreadable">Cannot be read by this release</span>
        )}
        <div className="card-tools">
          {readable ? (
            <Button size="small" tabIndex={tab} aria-label={`Copy the trail of ${piece.name}`} onClick={() => onCopy(piece)}>
              Copy trail
            </Button>
          ) : (
            <Button size="small" tabIndex={tab} href={`/api/v1/pieces/${piece.id}/file`} aria-label={`Download ${piece.name}`}>
              Download
            </Button>
          )}
          <Button size="small" tabIndex={tab} aria-label={`Delete ${piece.name}`} onClick={() => onDelete(piece)}>
            Delete
          </Button>
        </div>
      </div>
      <div className="card-body">
        <Link
          className="clip card-link"
          to={`/bench/${piece.id}`}
          title={piece.name}
          aria-label={`Open ${piece.name}`}
          tabIndex={tab}
          data-roving={piece.id}
        >
          {piece.name}
        </Link>
        <span className="quiet small">
          {piece.steps} {piece.steps === 1 ? "step" : "steps"}
        </span>
      </div>
      <CardPick name={piece.name} picked={picked} tab={tab} onPick={(through) => onPick(piece.id, through)} />
    </>
  );
}
