import { type RefObject, useLayoutEffect, useState } from "react";

/** The size of an element, kept up to date. */
export function useRoom(ref: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [room, setRoom] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watcher = new ResizeObserver(() => setRoom({ width: element.clientWidth, height: element.clientHeight }));
    watcher.observe(element);
    return () => watcher.disconnect();
  }, [ref]);
  return room;
}
