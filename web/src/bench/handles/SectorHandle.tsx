import { type Point, polar, round, toStage, turnsOf } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const LENGTH = 0.8;
const SNAP = 1 / 24;

/** The ray at which the shown sector begins, and the one at which it ends. */
export function SectorHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const centre: Point = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const angle = effectiveNumber(kind, settings, "angle");
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
          set({ angle: round(snap ? Math.round(there / SNAP) * SNAP : there) }, gesture);
        }}
        onReset={() => set({ angle: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
