import { clamp, polar, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const MIDDLE = 0.5;
const SPAN = 0.4;

/** Pull towards the centre to draw the content there, away from it to swell it. */
export function PinchHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const centre = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const reach = Math.min(effectiveNumber(kind, settings, "reach"), 1.6);
  const amount = effectiveNumber(kind, settings, "amount");
  const at = polar(centre, 0, reach * (MIDDLE - SPAN * amount));
  return (
    <g>
      <Stroke from={toStage(placed, polar(centre, 0, reach * MIDDLE))} to={toStage(placed, at)} colour="var(--coral)" />
      <Knob
        label="Amount"
        grid
        placed={placed}
        at={at}
        look="coral"
        onMove={({ to, gesture }) => {
          const share = (centre.y - to.y) / reach;
          set({ amount: round(clamp((MIDDLE - share) / SPAN, -1, 1)) }, gesture);
        }}
        onReset={() => set({ amount: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
