import { useId } from "react";
import type { Placed } from "../model/geometry";
import { lineOf, radiusOn, type Stroke, shownThere, takesSource } from "../model/touch";

/** The picture on the stage, as it is seen. */
export interface Seen {
  url: string;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** What a stroke will look like, guessed from the picture that is seen, until the true one comes. */
export function StrokePreview({ stroke, placed, seen }: { stroke: Stroke; placed: Placed; seen: Seen | null }) {
  const id = useId();
  const radius = radiusOn(placed, stroke.radius);
  const soft = (radius * (1 - stroke.hardness)) / 2;
  const filled = stroke.outline.length > 0;
  const line = {
    d: lineOf(stroke, placed),
    fill: filled ? "currentColor" : "none",
    stroke: "currentColor",
    strokeWidth: filled ? 0 : Math.max(2 * radius - 2 * soft, 1),
    strokeLinecap: "round",
    strokeLinejoin: "round",
    filter: soft > 0.5 ? `url(#${id}-soft)` : undefined,
  } as const;
  const blur = soft > 0.5 && (
    <filter id={`${id}-soft`} filterUnits="userSpaceOnUse" x={placed.left} y={placed.top} width={placed.width} height={placed.height}>
      <feGaussianBlur stdDeviation={soft * 0.7} />
    </filter>
  );
  if (takesSource(stroke.mode) && seen) {
    return (
      <g pointerEvents="none" opacity={stroke.opacity}>
        {blur}
        <mask id={id} maskUnits="userSpaceOnUse" x={seen.left} y={seen.top} width={seen.width} height={seen.height}>
          <path {...line} style={{ color: "white" }} />
        </mask>
        <g mask={`url(#${id})`}>
          <image
            href={seen.url}
            x={seen.left}
            y={seen.top}
            width={seen.width}
            height={seen.height}
            preserveAspectRatio="none"
            transform={shownThere(stroke, placed)}
          />
        </g>
      </g>
    );
  }
  const colour = stroke.mode === "colour" ? (stroke.colour ?? "var(--faint)") : "var(--coral-fill)";
  return (
    <g pointerEvents="none" opacity={stroke.mode === "colour" ? stroke.opacity : 1} style={{ color: colour }}>
      {blur}
      <path {...line} />
    </g>
  );
}
