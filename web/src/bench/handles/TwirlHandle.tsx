import { clamp, type Point, polar, round, toStage, turnsOf } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;

/** The points of an arc, as an SVG path. */
function arcPath(points: Point[]): string {
  return points.map((p, n) => `${n ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("");
}

/** How far the twirl turns: an arm that goes round and round, its way drawn as a spiral from the top. */
export function TwirlHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const centre = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const turns = effectiveNumber(kind, settings, "turns");
  const reach = Math.min(effectiveNumber(kind, settings, "reach"), 1.1);
  const outer = reach * 0.55;
  const steps = Math.max(2, Math.ceil(Math.abs(turns) * 40));
  const way = Array.from({ length: steps + 1 }, (_, n) =>
    toStage(placed, polar(centre, (turns * n) / steps, outer * (1 - (0.25 * n) / steps))),
  );
  const arm = polar(centre, turns, outer * 0.75);
  return (
    <g>
      <path d={arcPath(way)} fill="none" stroke="var(--trace-edge)" strokeWidth={4.5} />
      <path d={arcPath(way)} fill="none" stroke="var(--coral)" strokeWidth={2.2} />
      <Stroke from={toStage(placed, centre)} to={toStage(placed, arm)} dash="4 5" />
      <Knob
        label="Turns"
        placed={placed}
        at={arm}
        look="coral"
        onMove={({ to, snap, gesture }) => {
          const there = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
          // The nearest of all angles that look the same: so the arm can be wound further and further.
          const near = there - Math.round(there - turns);
          set({ turns: round(clamp(snap ? Math.round(near / SNAP) * SNAP : near, -6, 6)) }, gesture);
        }}
        onReset={() => set({ turns: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
