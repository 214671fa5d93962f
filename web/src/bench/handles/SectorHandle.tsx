import { type Point, polar, round, toStage, turnsOf } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { useTold } from "../useTold";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const LENGTH = 0.8;
const SNAP = 1 / 24;

/** The ray at which the shown sector begins, and the one at which it ends. */
export function SectorHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const centre: Point = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const found = Number(useTold()?.busiest ?? 0);
  // Where the busiest sector is sought, the angle is one from its ray; a hand on the ray chooses for itself.
  const angle = effectiveNumber(kind, settings, "angle") + (settings.seek ? found : 0);
  const end = angle + 1 / effectiveNumber(kind, settings, "sectors");
  const tip = polar(centre, angle, LENGTH);
  return (
    <g>
      <Stroke from={toStage(placed, centre)} to={toStage(placed, polar(centre, end, LENGTH))} dash="5 5" />
      <Stroke from={toStage(placed, centre)} to={toStage(placed, tip)} colour="var(--coral)" />
      <Knob
        label="First ray"
        placed={placed}
        at={tip}
        look="coral"
        onMove={({ to, snap, gesture }) => {
          const there = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
          set({ angle: round(snap ? Math.round(there / SNAP) * SNAP : there), seek: false }, gesture);
        }}
        onReset={() => set({ angle: 0, seek: false }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
