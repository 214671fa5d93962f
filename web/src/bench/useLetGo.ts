import { useEffect } from "react";
import { useBench } from "./store";

/**
 * A drag ends when what is dragged goes, whatever took it off the screen, and when the pointer is let go of anywhere: the Bench is never left
 * dragging with no hand on it. What was dragged so far stands.
 */
export function useLetGo(): void {
  const dragging = useBench((state) => state.dragging && !state.playing);
  useEffect(() => {
    const pressed = (event: PointerEvent) => {
      held = event.target as Element;
    };
    window.addEventListener("pointerdown", pressed, true);
    return () => window.removeEventListener("pointerdown", pressed, true);
  }, []);
  useEffect(() => {
    if (!dragging) return;
    const end = () => {
      if (useBench.getState().dragging && !useBench.getState().playing) useBench.setState({ dragging: false, draggedSetting: null });
    };
    let frame = requestAnimationFrame(function look() {
      if (held && !held.isConnected) end();
      else frame = requestAnimationFrame(look);
    });
    // The handle itself hears of it first, and has its last move made.
    const released = () => setTimeout(end);
    const ways = ["pointerup", "pointercancel", "blur"] as const;
    for (const way of ways) window.addEventListener(way, released);
    return () => {
      cancelAnimationFrame(frame);
      for (const way of ways) window.removeEventListener(way, released);
    };
  }, [dragging]);
}

let held: Element | null = null;
