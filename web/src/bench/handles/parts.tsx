import type { Point } from "../model/geometry";

/** A line that shows on light and on dark pictures alike. */
export function Stroke({ from, to, colour = "#fffdf9", dash }: { from: Point; to: Point; colour?: string; dash?: string }) {
  const ends = { x1: from.x, y1: from.y, x2: to.x, y2: to.y };
  return (
    <>
      <line {...ends} stroke="rgb(20 24 26 / 55%)" strokeWidth={4} />
      <line {...ends} stroke={colour} strokeWidth={2} strokeDasharray={dash} />
    </>
  );
}

/** A circle that shows on light and on dark pictures alike. */
export function Round({ centre, radius, dash }: { centre: Point; radius: number; dash?: string }) {
  const circle = { cx: centre.x, cy: centre.y, r: Math.max(radius, 0), fill: "none" };
  return (
    <>
      <circle {...circle} stroke="rgb(20 24 26 / 50%)" strokeWidth={3.5} />
      <circle {...circle} stroke="#fffdf9" strokeWidth={1.7} strokeDasharray={dash} />
    </>
  );
}
