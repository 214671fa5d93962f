import { clamp, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round, Stroke } from "./parts";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;
const LEAST = 0.05;

/** Where and how far the light places go: an arrow from the middle. Along the slope there is no heading, and the arrow only grows. */
export function DisplaceHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const sloped = effective(kind, settings, "along") === "slope";
  const amount = effectiveNumber(kind, settings, "amount");
  const heading = sloped ? 0.25 : effectiveNumber(kind, settings, "heading");
  const middle = { x: 0, y: 0 };
  // A negative amount points the other way.
  const tip = polar(middle, heading, Math.abs(amount) < LEAST ? LEAST : amount);
  return (
    <g>
      <Round centre={toStage(placed, middle)} radius={5} />
      <Stroke from={toStage(placed, middle)} to={toStage(placed, tip)} colour="var(--coral)" />
      <Knob
        label="Amount and direction"
        placed={placed}
        at={tip}
        look="coral"
        onMove={({ to, snap, gesture }) => {
          if (sloped) {
            set({ amount: round(clamp(to.x, -2, 2)) }, gesture);
            return;
          }
          const there = turnsOf(to);
          set(
            { amount: round(clamp(Math.hypot(to.x, to.y), 0, 2)), heading: round(snap ? Math.round(there / SNAP) * SNAP : there) },
            gesture,
          );
        }}
        onReset={() => set({ amount: 0.25, heading: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
