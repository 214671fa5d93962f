import { clamp, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { useTold } from "../useTold";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;
/** A length of 1 is drawn so long; a distance so many times as long as it is. */
const LONG = 0.6;
const MAGNIFIED = 4;
const MIDDLE = { x: 0, y: 0 };

/** Where a shadow falls and how far: an arrow from the feet, or from the middle; and the line that the feet stand on. */
export function ShadowHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const told = useTold();
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const ground = effective(kind, settings, "form") === "ground";
  const feet = settings.feet === null || settings.feet === undefined ? Number(told?.feet ?? 1) : value("feet");
  const from = ground ? { x: 0, y: feet } : MIDDLE;
  const long = ground ? value("length") * LONG : value("distance") * MAGNIFIED;
  const tip = polar(from, value("heading"), long);
  const half = placed.width / 2 / perUnit(placed);
  if (effective(kind, settings, "form") === "none") return null;
  return (
    <g>
      <Stroke from={toStage(placed, from)} to={toStage(placed, tip)} colour="var(--coral)" />
      {ground && (
        <>
          <Stroke from={toStage(placed, { x: -half, y: feet })} to={toStage(placed, { x: half, y: feet })} dash="3 6" />
          <Knob
            label="Feet"
            placed={placed}
            at={{ x: -0.5 * half, y: feet }}
            onMove={({ to, gesture }) => set({ feet: round(clamp(to.y, -3, 3)) }, gesture)}
            onReset={() => set({ feet: null }, "reset")}
            onDragging={dragging}
          />
        </>
      )}
      <Knob
        label="Falls towards, length"
        look="coral"
        placed={placed}
        at={tip}
        onMove={({ to, snap, gesture }) => {
          const way = { x: to.x - from.x, y: to.y - from.y };
          const turns = turnsOf(way);
          const far = Math.hypot(way.x, way.y);
          const [name, length] = ground ? ["length", clamp(far / LONG, 0, 6)] : ["distance", clamp(far / MAGNIFIED, 0, 1)];
          set({ heading: round(snap ? Math.round(turns / SNAP) * SNAP : turns), [name as string]: round(length as number) }, gesture);
        }}
        onReset={() => set({ heading: 0.2, [ground ? "length" : "distance"]: ground ? 0.9 : 0.04 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
