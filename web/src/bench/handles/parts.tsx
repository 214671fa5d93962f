import type { Point } from "../model/geometry";

/** A line that shows on light and on dark pictures alike; what lies under it is pressed through it. */
export function Stroke({ from, to, colour = "var(--trace)", dash }: { from: Point; to: Point; colour?: string; dash?: string }) {
  const ends = { x1: from.x, y1: from.y, x2: to.x, y2: to.y, pointerEvents: "none" } as const;
  return (
    <>
      <line {...ends} stroke="var(--trace-edge)" strokeWidth={4} />
      <line {...ends} stroke={colour} strokeWidth={2} strokeDasharray={dash} />
    </>
  );
}

/** A circle that shows on light and on dark pictures alike; what lies under it is pressed through it. */
export function Round({ centre, radius, dash }: { centre: Point; radius: number; dash?: string }) {
  const circle = { cx: centre.x, cy: centre.y, r: Math.max(radius, 0), fill: "none", pointerEvents: "none" } as const;
  return (
    <>
      <circle {...circle} stroke="var(--trace-edge)" strokeWidth={3.5} />
      <circle {...circle} stroke="var(--trace)" strokeWidth={1.7} strokeDasharray={dash} />
    </>
  );
}
