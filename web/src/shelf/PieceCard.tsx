import { Button, Checkbox } from "antd";
import { Link } from "react-router";
import { type PieceRow, thumbnailOf } from "../api/client";
import "./PieceCard.css";

interface Props {
  piece: PieceRow;
  /** Whether it can be chosen to paste onto, and is. */
  choosing: boolean;
  chosen: boolean;
  onChoose: (chosen: boolean) => void;
  onCopy: () => void;
  onDelete: () => void;
}

/** A piece on the Shelf page; opens its Bench. */
export function PieceCard({ piece, choosing, chosen, onChoose, onCopy, onDelete }: Props) {
  const readable = piece.faults.length === 0;
  return (
    <article className={`card ${chosen ? "chosen" : ""}`}>
      <Link to={`/bench/${piece.id}`} aria-label={`Open ${piece.name}`}>
        {readable ? (
          <img className="card-picture" src={thumbnailOf(piece.id, piece.revision)} alt="" loading="lazy" />
        ) : (
          <span className="card-picture unreadable">Cannot be read by this release</span>
        )}
      </Link>
      <div className="card-tools">
        {readable ? (
          <Button size="small" aria-label={`Copy the trail of ${piece.name}`} onClick={onCopy}>
            Copy trail
          </Button>
        ) : (
          <Button size="small" href={`/api/pieces/${piece.id}/file`} aria-label={`Download ${piece.name}`}>
            Download
          </Button>
        )}
        <Button size="small" aria-label={`Delete ${piece.name}`} onClick={onDelete}>
          Delete
        </Button>
      </div>
      <div className="card-body">
        <strong className="clip" title={piece.name}>
          {piece.name}
        </strong>
        {choosing && readable ? (
          <Checkbox checked={chosen} onChange={(event) => onChoose(event.target.checked)} aria-label={`Paste onto ${piece.name}`}>
            <span className="small">paste here</span>
          </Checkbox>
        ) : (
          <span className="quiet small">
            {piece.steps} {piece.steps === 1 ? "step" : "steps"}
          </span>
        )}
      </div>
    </article>
  );
}
