import { Button } from "antd";
import { useEffect, useRef } from "react";

/** The end of a list that has more pages: the next one is fetched when it comes in sight, or by a press. */
export function More({ pages }: { pages: { hasMore: boolean; more: () => void; items: unknown[]; count: number } }) {
  const ref = useRef<HTMLDivElement>(null);
  const next = useRef(pages.more);
  next.current = pages.more;
  const there = pages.items.length;
  // biome-ignore lint/correctness/useExhaustiveDependencies: watched anew after each page, as its end may be in sight still
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const watch = new IntersectionObserver((entries) => entries.some((entry) => entry.isIntersecting) && next.current(), {
      rootMargin: "300px",
    });
    watch.observe(element);
    return () => watch.disconnect();
  }, [there, pages.hasMore]);
  if (!pages.hasMore) return null;
  return (
    <div ref={ref} className="more">
      <Button type="text" onClick={pages.more}>
        {there} of {pages.count}: show more
      </Button>
    </div>
  );
}
