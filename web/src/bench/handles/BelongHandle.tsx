import { polar, round, toStage, turnsOf } from "../model/geometry";
import { useTold } from "../useTold";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const MIDDLE = { x: 0, y: 0 };
const ARM = 0.7;
const SNAP = 1 / 24;

/** Where the light on a figure comes from: found in the scene until it is dragged. */
export function BelongHandle({ settings, placed, set, dragging }: HandleProps) {
  const told = useTold();
  const own = typeof settings.light === "number" ? settings.light : null;
  if (own === null && told?.light === undefined) return null;
  const tip = polar(MIDDLE, own ?? Number(told?.light ?? 0.75), ARM);
  return (
    <g>
      <Stroke from={toStage(placed, tip)} to={toStage(placed, MIDDLE)} colour="var(--coral)" {...(own === null ? { dash: "3 6" } : {})} />
      <Knob
        label="Light from"
        look="coral"
        placed={placed}
        at={tip}
        onMove={({ to, snap, gesture }) => {
          const turns = turnsOf(to);
          set({ light: round(snap ? Math.round(turns / SNAP) * SNAP : turns) }, gesture);
        }}
        onReset={() => set({ light: null }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
