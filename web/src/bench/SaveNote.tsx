import { Button } from "antd";
import type { SavedPiece } from "../api/client";
import { savePieceFile } from "./saving/pieceFile";
import type { SaveState } from "./saving/queue";
import { useBenchPart } from "./store";
import "./SaveNote.css";

/** The state of the autosave, beside the name. */
export function SaveNote({ state }: { state: SaveState }) {
  const words = {
    saved: "Saved",
    unsaved: "Not saved yet",
    saving: "Saving …",
    lost: "Not saved",
    refused: "Not saved",
    stale: "Changed elsewhere",
  };
  const bad = state.kind === "lost" || state.kind === "refused" || state.kind === "stale";
  return (
    <span className={`save-state ${bad ? "bad" : ""}`} role="status" title={"message" in state ? state.message : undefined}>
      {words[state.kind]}
    </span>
  );
}

/** What the server will not keep: it says why, and how nothing of it is lost. */
export function RefusedBanner({ words }: { words: string }) {
  const { history, undo } = useBenchPart("history", "undo");
  return (
    <div className="banner" role="alert" aria-label="Not saved">
      <strong>What you see is not saved.</strong>
      <span className="quiet">{words}</span>
      <div className="row">
        <Button type="primary" disabled={!history.past.length} onClick={undo}>
          Undo
        </Button>
        <Button onClick={() => savePieceFile(history.present)}>Save as a file</Button>
      </div>
    </div>
  );
}

/** What cannot be saved just now: it says why, and that it is tried again. */
export function LostBanner({ words }: { words: string }) {
  const { history } = useBenchPart("history");
  return (
    <div className="banner" role="alert" aria-label="Not saved yet">
      <strong>What you see is not saved yet.</strong>
      <span className="quiet">{words}</span>
      <div className="row">
        <Button onClick={() => savePieceFile(history.present)}>Save as a file</Button>
      </div>
    </div>
  );
}

interface Choice {
  current: SavedPiece;
  onMine: () => void;
  onTheirs: () => void;
  onBoth: () => void;
}

/** A refused save: someone, or another tab, saved in between. Nothing is lost until the user has chosen. */
export function StaleBanner({ current, onMine, onTheirs, onBoth }: Choice) {
  return (
    <div className="banner" role="alertdialog" aria-label="This piece was changed elsewhere">
      <strong>This piece was changed elsewhere, perhaps in another tab.</strong>
      <span className="quiet">
        “{current.name}” was saved there at {new Date(current.changed_at).toLocaleTimeString()}. Nothing was overwritten.
      </span>
      <div className="row">
        <Button type="primary" onClick={onBoth}>
          Keep both
        </Button>
        <Button onClick={onMine}>Keep mine</Button>
        <Button onClick={onTheirs}>Load the other version</Button>
      </div>
    </div>
  );
}
