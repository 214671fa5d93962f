import { clamp, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { CentreHandle } from "./CentreReachHandle";
import { Knob } from "./Knob";
import { Round } from "./parts";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;
const STEPS_PER_TURN = 48;

/** The spiral itself: where it begins, where it is one turn further in, and how large the first copy is. */
export function SpiralHandle(props: HandleProps) {
  const { kind, settings, placed, set, dragging } = props;
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const centre = { x: value("x"), y: value("y") };
  const [reach, start, growth, size, turns] = [value("reach"), value("start"), value("growth"), value("size"), value("turns")];
  const way = effective(kind, settings, "clockwise") === true ? 1 : -1;
  const at = (inwards: number) => polar(centre, start + way * inwards, reach * growth ** -inwards);
  const count = Math.ceil(turns * STEPS_PER_TURN);
  const path = Array.from({ length: count + 1 }, (_, n) => {
    const p = toStage(placed, at((n / count) * turns));
    return `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
  }).join("");
  const first = at(0);
  const shared = { placed, onDragging: dragging };
  const distance = (to: { x: number; y: number }) => Math.hypot(to.x - centre.x, to.y - centre.y);
  return (
    <g>
      <path d={path} fill="none" stroke="var(--trace-edge)" strokeWidth={4.5} />
      <path d={path} fill="none" stroke="var(--trace)" strokeWidth={2} />
      <Round centre={toStage(placed, first)} radius={reach * size * perUnit(placed)} dash="6 5" />
      <Knob
        {...shared}
        label="Begins at"
        look="coral"
        at={first}
        onMove={({ to, snap, gesture }) => {
          const there = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
          set({ start: round(snap ? Math.round(there / SNAP) * SNAP : there), reach: round(clamp(distance(to), 0.05, 4)) }, gesture);
        }}
        onReset={() => set({ start: 0, reach: 0.8 }, "reset")}
      />
      {turns >= 1 && (
        <Knob
          {...shared}
          label="Growth a turn"
          grid
          at={at(1)}
          onMove={({ to, gesture }) => set({ growth: round(clamp(reach / Math.max(distance(to), 0.01), 1, 10)) }, gesture)}
          onReset={() => set({ growth: 2.2 }, "reset")}
        />
      )}
      <Knob
        {...shared}
        label="Size"
        grid
        at={polar(first, start + 0.25, reach * size)}
        onMove={({ to, gesture }) => set({ size: round(clamp(Math.hypot(to.x - first.x, to.y - first.y) / reach, 0.02, 2)) }, gesture)}
        onReset={() => set({ size: 0.42 }, "reset")}
      />
      <CentreHandle {...props} />
    </g>
  );
}
