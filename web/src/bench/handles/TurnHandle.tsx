import { perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round, Stroke } from "./parts";
import type { HandleProps } from "./types";

const RADIUS = 0.82;
const SNAP = 1 / 24;

/** An arm to turn the picture by; Shift snaps to 15°. */
export function TurnHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const angle = effectiveNumber(kind, settings, "angle");
  const centre = { x: 0, y: 0 };
  const arm = polar(centre, angle, RADIUS);
  return (
    <g>
      <Round centre={toStage(placed, centre)} radius={RADIUS * perUnit(placed)} dash="2 7" />
      <Stroke from={toStage(placed, centre)} to={toStage(placed, polar(centre, 0, RADIUS))} dash="4 6" />
      <Stroke from={toStage(placed, centre)} to={toStage(placed, arm)} colour="var(--coral)" />
      <Knob
        label="Turn"
        placed={placed}
        at={arm}
        look="coral"
        onMove={({ to, snap, gesture }) => {
          const turns = turnsOf(to);
          const near = turns - Math.round(turns - angle);
          set({ angle: round(Math.max(-1, Math.min(1, snap ? Math.round(near / SNAP) * SNAP : near))) }, gesture);
        }}
        onReset={() => set({ angle: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
