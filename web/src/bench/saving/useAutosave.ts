import { useEffect, useSyncExternalStore } from "react";
import { useBench } from "../store";
import type { SaveQueue } from "./queue";

const nothing = () => () => {};

/** Offers every state of the Bench to the piece's queue, and has it sent at once when the Bench is left. */
export function useAutosave(queue: SaveQueue | null) {
  useEffect(() => {
    if (!queue) return;
    const offer = () => {
      const { pieceId, history } = useBench.getState();
      if (pieceId === queue.id) queue.offer(history);
    };
    offer();
    const stop = useBench.subscribe((now, before) => {
      if (now.history !== before.history) offer();
    });
    return () => {
      stop();
      void queue.flush();
    };
  }, [queue]);
  useSyncExternalStore(queue?.subscribe ?? nothing, () => queue?.state);
  return queue;
}
