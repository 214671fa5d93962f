import { clamp, type Point, round, toFrame, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

/** An arrow from the middle to where the middle has moved. */
export function ShiftHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const across = effectiveNumber(kind, settings, "across");
  const down = effectiveNumber(kind, settings, "down");
  const middle: Point = { x: placed.left + placed.width / 2, y: placed.top + placed.height / 2 };
  const end: Point = { x: middle.x + across * placed.width, y: middle.y + down * placed.height };
  return (
    <g>
      <Stroke from={middle} to={end} colour="var(--coral)" />
      <Knob
        label="Shift"
        placed={placed}
        at={toFrame(placed, end)}
        look="coral"
        onMove={({ to, snap, gesture }) => {
          const stage = toStage(placed, to);
          const u = clamp((stage.x - middle.x) / placed.width, -1, 1);
          const v = clamp((stage.y - middle.y) / placed.height, -1, 1);
          set(snap ? { across: round(u), down: 0 } : { across: round(u), down: round(v) }, gesture);
        }}
        onReset={() => set({ across: 0, down: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
