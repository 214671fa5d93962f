import { Button } from "antd";
import { useNavigate } from "react-router";
import type { SavedPiece } from "../api/client";
import { Head } from "../shared/Head";
import { Mark } from "../shared/Mark";
import "./Unreadable.css";

/** A piece this release cannot read: what is wrong with it, and what can still be done. */
export function Unreadable({ piece }: { piece: SavedPiece }) {
  const navigate = useNavigate();
  return (
    <div className="app">
      <Head />
      <main className="centre-note">
        <Mark size={64} />
        <h1>“{piece.name}” cannot be read by this version of Caracol.</h1>
        <p className="quiet">
          Nothing is lost. Download its file to repair it, or open it with the version that made it. You can delete it on the Shelf.
        </p>
        <ul className="fault-list">
          {piece.faults.slice(0, 8).map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
        <div className="line">
          <Button type="primary" href={`/api/v1/pieces/${piece.id}/file`}>
            Download its file
          </Button>
          <Button onClick={() => navigate("/")}>To the Shelf</Button>
        </div>
      </main>
    </div>
  );
}
