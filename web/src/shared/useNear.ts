import { type RefObject, useEffect, useState } from "react";

/** How far beyond what is seen things are drawn, so that nothing is empty when it comes in sight. */
const MARGIN = "900px 0px";

type Tell = (near: boolean, height: number) => void;
const told = new WeakMap<Element, Tell>();
let watch: IntersectionObserver | null = null;

/** One watcher for all: thousands of their own would cost more than what they save. */
function watcher(): IntersectionObserver {
  watch ??= new IntersectionObserver(
    (entries) => {
      for (const { target, isIntersecting, boundingClientRect } of entries) told.get(target)?.(isIntersecting, boundingClientRect.height);
    },
    // Lists scroll within the page: for those the margin has another name.
    { rootMargin: MARGIN, scrollMargin: MARGIN } as IntersectionObserverInit,
  );
  return watch;
}

/**
 * Whether an element of a long list is in sight or near it, and the height to keep while it is not: what is far away need not be drawn, nor
 * its pictures be held.
 */
export function useNear(ref: RefObject<Element | null>, usual: number): { near: boolean; height: number } {
  const [state, setState] = useState({ near: false, height: usual });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    told.set(element, (near, height) => setState((now) => (near === now.near ? now : { near, height: near ? now.height : height })));
    watcher().observe(element);
    return () => watcher().unobserve(element);
  }, [ref]);
  return state;
}
