import { useGesture } from "@use-gesture/react";
import { type RefObject, useRef } from "react";
import { useBench } from "./store";
import { zoomed } from "./store/view";

/** Wheel and pinch zoom about the pointer; dragging the ground moves the picture. */
export function useZoom(ref: RefObject<HTMLElement | null>, room: { width: number; height: number }): void {
  const patch = useBench((state) => state.patch);
  const from = useRef({ x: 0, y: 0 });
  const zoomAt = (factor: number, clientX: number, clientY: number) => {
    const { zoom, pan, fitScale } = useBench.getState();
    const next = zoomed(zoom * factor, fitScale);
    const box = ref.current?.getBoundingClientRect();
    if (!box) return;
    const at = { x: clientX - box.left - room.width / 2, y: clientY - box.top - room.height / 2 };
    const k = next / zoom;
    patch({ zoom: next, pan: { x: at.x - (at.x - pan.x) * k, y: at.y - (at.y - pan.y) * k } });
  };
  useGesture(
    {
      onWheel: ({ event, delta: [, dy] }) => {
        event.preventDefault();
        zoomAt(Math.exp(-dy * 0.0016), event.clientX, event.clientY);
      },
      onDrag: ({ first, movement: [mx, my], event }) => {
        if (first) from.current = useBench.getState().pan;
        if ((event.target as Element).closest("button, .split-turner, .finder, .knob, .edge-marker, .bar-handle, .drawing")) return;
        patch({ pan: { x: from.current.x + mx, y: from.current.y + my } });
      },
      onPinch: ({ delta: [ds], origin: [x, y], event }) => {
        if (event.type !== "wheel") zoomAt(1 + ds, x, y);
      },
    },
    {
      target: ref,
      wheel: { eventOptions: { passive: false } },
      drag: { filterTaps: true, threshold: 4, pointer: { keys: false } },
    },
  );
}
