import { clamp, round, toFrame, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

/** How far the crossfade reaches from both edges. */
export function SeamBandHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const width = effectiveNumber(kind, settings, "width");
  const edges = [
    { label: "Seam width, left", x: placed.left + width * placed.width, side: 1 },
    { label: "Seam width, right", x: placed.left + (1 - width) * placed.width, side: -1 },
  ];
  return (
    <g>
      {edges.map(({ label, x, side }) => (
        <g key={label}>
          <Stroke from={{ x, y: placed.top }} to={{ x, y: placed.top + placed.height }} dash="6 5" />
          <Knob
            label={label}
            grid
            placed={placed}
            at={toFrame(placed, { x, y: placed.top + placed.height / 2 })}
            look="coral"
            onMove={({ to, gesture }) => {
              const u = (toStage(placed, to).x - placed.left) / placed.width;
              set({ width: round(clamp(side > 0 ? u : 1 - u, 0.002, 0.5)) }, gesture);
            }}
            onReset={() => set({ width: 0.06 }, "reset")}
            onDragging={dragging}
          />
        </g>
      ))}
    </g>
  );
}
