import { Button } from "antd";
import { Link } from "react-router";
import type { PieceRow } from "../api/client";
import "./PieceCard.css";

/** A piece on the Shelf page; opens its Bench. */
export function PieceCard({ piece, onDelete }: { piece: PieceRow; onDelete: () => void }) {
  return (
    <article className="card">
      <Link to={`/bench/${piece.id}`} aria-label={`Open ${piece.name}`}>
        {piece.faults.length > 0 ? (
          <span className="card-picture unreadable">Cannot be read by this release</span>
        ) : (
          <img className="card-picture" src={`/api/pieces/${piece.id}/thumbnail?${piece.revision}`} alt="" loading="lazy" />
        )}
      </Link>
      <div className="card-tools">
        {piece.faults.length > 0 && (
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
        <span className="quiet small">
          {piece.steps} {piece.steps === 1 ? "step" : "steps"}
        </span>
      </div>
    </article>
  );
}
