import { useDrag } from "@use-gesture/react";
import { clamp } from "./model/geometry";
import { useBench } from "./store";

/** The line between original (left) and result (right); dragged, or moved with the arrow keys. */
export function SplitLine({ share, room }: { share: number; room: { width: number; left: number } }) {
  const patch = useBench((state) => state.patch);
  const bind = useDrag(({ xy: [x], event }) => {
    event.stopPropagation();
    patch({ split: clamp((x - room.left) / room.width, 0.02, 0.98) });
  });
  return (
    <div
      {...bind()}
      className="split-line"
      style={{ left: `${share * 100}%` }}
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
  );
}
