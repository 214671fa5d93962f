import { Button } from "antd";
import { useState } from "react";
import type { PieceRow } from "../api/client";
import { More } from "../shared/More";
import type { usePages } from "../shared/usePages";
import { PieceCard } from "./PieceCard";
import { usePaste } from "./usePaste";

/** So many of the latest pieces are shown at first, so that the photos are in sight. */
const ROW = 5;

interface Props {
  pieces: ReturnType<typeof usePages<PieceRow>>;
  onDelete: (piece: PieceRow) => void;
}

/** The pieces begun, the latest first: opened, deleted, and their trails copied onto others. */
export function PiecesSection({ pieces, onDelete }: Props) {
  const [all, setAll] = useState(false);
  const [chosen, setChosen] = useState<string[]>([]);
  const { count, copy, paste, pasting } = usePaste();
  const shown = pieces.items.slice(0, all ? undefined : ROW);
  const rows = pieces.items.filter((piece) => chosen.includes(piece.id));
  return (
    <section className="pieces" aria-label="Pieces">
      <div className="shelf-bar">
        <h1>Pieces</h1>
        {count > 0 && (
          <Button
            size="small"
            disabled={!rows.length}
            loading={pasting}
            onClick={() => void paste(rows).then(() => setChosen([]))}
            title="After their own steps; each is undone on its Bench"
          >
            Paste {count} {count === 1 ? "step" : "steps"} onto {rows.length || "those chosen"}
          </Button>
        )}
        {pieces.items.length > ROW && (
          <Button size="small" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? "Only the latest" : `All ${pieces.count}`}
          </Button>
        )}
      </div>
      <div className="cards">
        {shown.map((piece) => (
          <PieceCard
            key={piece.id}
            piece={piece}
            choosing={count > 0}
            chosen={chosen.includes(piece.id)}
            onChoose={(now) => setChosen((ids) => (now ? [...ids, piece.id] : ids.filter((id) => id !== piece.id)))}
            onCopy={() => void copy(piece)}
            onDelete={() => onDelete(piece)}
          />
        ))}
      </div>
      {all && <More pages={pieces} />}
    </section>
  );
}
