import { type RefObject, useRef } from "react";
import { usePanZoom } from "../shared/usePanZoom";
import type { PieceDocument } from "./model/piece";
import { useBench } from "./store";
import { zoomed } from "./store/view";

/** What on the stage takes the press for itself. */
const TAKEN = "button, [role=button], .split-turner, .finder, .knob, .edge-marker, .bar-handle, .drawing";

/** The stage's picture is looked about on; what a first finger did before the second came is taken back. */
export function useZoom(ref: RefObject<HTMLElement | null>, room: { width: number; height: number }): void {
  const before = useRef<PieceDocument | null>(null);
  usePanZoom(ref, {
    pan: ({ x, y }) => {
      const { pan, patch } = useBench.getState();
      patch({ pan: { x: pan.x + x, y: pan.y + y } });
    },
    zoom: (factor, { x, y }) => {
      const { zoom, pan, fitScale, patch } = useBench.getState();
      const next = zoomed(zoom * factor, fitScale);
      const box = ref.current?.getBoundingClientRect();
      if (!box) return;
      const at = { x: x - box.left - room.width / 2, y: y - box.top - room.height / 2 };
      const k = next / zoom;
      patch({ zoom: next, pan: { x: at.x - (at.x - pan.x) * k, y: at.y - (at.y - pan.y) * k } });
    },
    isGround: (target) => {
      before.current = useBench.getState().history.present.document;
      return !target.closest(TAKEN);
    },
    onSecondFinger: () => {
      const { history, undo, patch } = useBench.getState();
      if (before.current && history.present.document !== before.current) undo();
      patch({ dragging: false });
    },
  });
}
