import { Button } from "antd";
import { useCallback, useState } from "react";
import type { PieceRow } from "../api/client";
import { More } from "../shared/More";
import type { usePages } from "../shared/usePages";
import { usePicks } from "../shared/usePicks";
import { useRoving } from "../shared/useRoving";
import { PicksBar } from "./PicksBar";
import { PieceCard } from "./PieceCard";
import { usePaste } from "./usePaste";

/** So many of the latest pieces are shown at first, so that the photos are in sight. */
const ROW = 5;

interface Props {
  pieces: ReturnType<typeof usePages<PieceRow>>;
  onDelete: (rows: PieceRow[]) => void;
}

const idOf = (piece: PieceRow) => piece.id;

/** The pieces begun, the latest first: opened, deleted, and their trails copied onto others. */
export function PiecesSection({ pieces, onDelete }: Props) {
  const [all, setAll] = useState(false);
  const picks = usePicks(pieces.items, idOf);
  const { count, copy, paste, pasting } = usePaste();
  const shown = pieces.items.slice(0, all ? undefined : ROW);
  const roving = useRoving(shown[0]?.id);
  const remove = useCallback((row: PieceRow) => onDelete([row]), [onDelete]);
  return (
    <section className="pieces" aria-label="Pieces">
      <div className="shelf-bar">
        <h1>Pieces</h1>
        {count > 0 && !picks.chosen.length && (
          <span className="quiet small">
            {count} {count === 1 ? "step is" : "steps are"} copied. Select the pieces to paste onto
          </span>
        )}
        {pieces.items.length > ROW && (
          <Button size="small" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? "Only the latest" : `All ${pieces.count}`}
          </Button>
        )}
      </div>
      <PicksBar what="pieces" count={picks.chosen.length} there={shown.length} onAll={() => picks.all(shown)} onNone={picks.none}>
        {count > 0 && (
          <Button
            size="small"
            loading={pasting}
            onClick={() => void paste(picks.chosen.filter((piece) => !piece.faults.length)).then(picks.none)}
            title="They go after its own steps. You can undo it on each piece's Bench."
          >
            Paste {count} {count === 1 ? "step" : "steps"} onto {picks.chosen.length === 1 ? "it" : "them"}
          </Button>
        )}
        <Button size="small" onClick={() => onDelete(picks.chosen)}>
          Delete
        </Button>
      </PicksBar>
      <div className={`cards ${picks.picked.size || count ? "picking" : ""}`} {...roving.grid}>
        {shown.map((piece) => (
          <PieceCard
            key={piece.id}
            piece={piece}
            picked={picks.picked.has(piece.id)}
            tab={roving.tab(piece.id)}
            onPick={picks.pick}
            onCopy={copy}
            onDelete={remove}
          />
        ))}
      </div>
      {all && <More pages={pieces} />}
    </section>
  );
}
