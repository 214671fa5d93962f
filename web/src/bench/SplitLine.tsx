import { useDrag } from "@use-gesture/react";
import { clamp } from "./model/geometry";
import { useBench } from "./store";
import "./SplitLine.css";

interface Props {
  share: number;
  turn: number;
  room: { width: number; height: number; left: number; top: number };
}

const SNAP = 1 / 24;

/** The line between what is compared (left) and the result (right): dragged, turned at its upper end, or moved with the arrow keys. */
export function SplitLine({ share, turn, room }: Props) {
  const patch = useBench((state) => state.patch);
  const bind = useDrag(({ xy: [x], event }) => {
    event.stopPropagation();
    patch({ split: clamp((x - room.left) / room.width, 0.02, 0.98) });
  });
  const bindTurn = useDrag(({ xy: [x, y], shiftKey, event }) => {
    event.stopPropagation();
    const dx = x - room.left - share * room.width;
    const dy = y - room.top - room.height / 2;
    const there = Math.atan2(dx, -dy) / (2 * Math.PI);
    patch({ splitTurn: shiftKey ? Math.round(there / SNAP) * SNAP : there });
  });
  return (
    <div className="split-turner" style={{ left: `${share * 100}%`, transform: `rotate(${turn}turn)` }}>
      <div
        {...bind()}
        className="split-line"
        role="slider"
        tabIndex={0}
        aria-label="Split between original and result"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(share * 100)}
        onKeyDown={(event) => {
          const way = event.key === "ArrowLeft" ? -1 : event.key === "ArrowRight" ? 1 : 0;
          if (!way) return;
          event.preventDefault();
          patch({ split: clamp(share + way * 0.02, 0.02, 0.98) });
        }}
      />
      <button
        {...bindTurn()}
        type="button"
        className="bare split-knob"
        aria-label="Turn the split line"
        title="Drag to turn the line; double click makes it upright"
        onDoubleClick={() => patch({ splitTurn: 0 })}
      />
    </div>
  );
}
