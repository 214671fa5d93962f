import { polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;

/** The ray at which ang jumps from 1 to 0 in a polar formula. */
export function FormulaRayHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  if (effective(kind, settings, "system") !== "polar") return null;
  const centre = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const ray = effectiveNumber(kind, settings, "ray");
  const tip = polar(centre, ray, Math.min(effectiveNumber(kind, settings, "reach"), 0.85));
  return (
    <g>
      <Stroke from={toStage(placed, centre)} to={toStage(placed, tip)} colour="var(--coral)" />
      <Knob
        label="Ray"
        placed={placed}
        at={tip}
        look="coral"
        onMove={({ to, snap, gesture }) => {
          const there = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
          set({ ray: round(snap ? Math.round(there / SNAP) * SNAP : there) }, gesture);
        }}
        onReset={() => set({ ray: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
