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
  onPick: (id: string, through: boolean) => void;
  onCopy: (piece: PieceRow) => void;
  onDelete: (piece: PieceRow) => void;
}

/** A piece on the Shelf page; opens its Bench. */
export const PieceCard = memo(function PieceCard({ piece, picked, onPick, onCopy, onDelete }: Props) {
  const ref = useRef<HTMLElement>(null);
  const { near, height } = useNear(ref, USUAL);
  return (
    <article ref={ref} className={`card ${picked ? "picked" : ""}`} style={near ? undefined : { height }}>
      {near && <Inside piece={piece} picked={picked} onPick={onPick} onCopy={onCopy} onDelete={onDelete} />}
    </article>
  );
});

function Inside({ piece, picked, onPick, onCopy, onDelete }: Props) {
  const readable = piece.faults.length === 0;
  return (
    <>
      <div className="piece-top">
        <Link to={`/bench/${piece.id}`} aria-label={`Open ${piece.name}`}>
          {readable ? (
            <img className="card-picture" src={thumbnailOf(piece.id, piece.revision)} alt="" />
          ) : (
            <span className="card-picture unreadable">Cannot be read by this release</span>
          )}
        </Link>
        <div className="card-tools">
          {readable ? (
            <Button size="small" aria-label={`Copy the trail of ${piece.name}`} onClick={() => onCopy(piece)}>
              Copy trail
            </Button>
          ) : (
            <Button size="small" href={`/api/pieces/${piece.id}/file`} aria-label={`Download ${piece.name}`}>
              Download
            </Button>
          )}
          <Button size="small" aria-label={`Delete ${piece.name}`} onClick={() => onDelete(piece)}>
            Delete
          </Button>
        </div>
      </div>
      <div className="card-body">
        <strong className="clip" title={piece.name}>
          {piece.name}
        </strong>
        <span className="quiet small">
          {piece.steps} {piece.steps === 1 ? "step" : "steps"}
        </span>
      </div>
      <CardPick name={piece.name} picked={picked} onPick={(through) => onPick(piece.id, through)} />
    </>
  );
}
