import { type RefObject, useEffect, useState } from "react";

/** Whether an element is, or once was, in sight or nearly so: what is far down a list need not be drawn yet. */
export function useInSight(ref: RefObject<Element | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const element = ref.current;
    if (!element || seen) return;
    const watch = new IntersectionObserver(
      (entries) => {
        if (entries.some((entry) => entry.isIntersecting)) setSeen(true);
      },
      { rootMargin: "120px" },
    );
    watch.observe(element);
    return () => watch.disconnect();
  }, [ref, seen]);
  return seen;
}
