import { clamp, type Point, polar, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const WIDEST = 0.125;

/** A line to lay along the horizon; the step turns the picture until that line is level. */
export function LevelHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const lean = -effectiveNumber(kind, settings, "angle");
  const length = (placed.width / Math.min(placed.width, placed.height)) * 0.86;
  const centre: Point = { x: 0, y: 0 };
  const right = polar(centre, 0.25 + lean, length);
  const left = polar(centre, 0.75 + lean, length);
  const lay = (to: Point, side: 1 | -1, gesture: string) => {
    const turns = Math.atan2(to.y * side, to.x * side) / (2 * Math.PI);
    set({ angle: round(clamp(-turns, -WIDEST, WIDEST), 5) }, gesture);
  };
  const ends = [
    { label: "Horizon, right end", at: right, side: 1 },
    { label: "Horizon, left end", at: left, side: -1 },
  ] as const;
  return (
    <g>
      <Stroke from={toStage(placed, left)} to={toStage(placed, right)} colour="var(--coral)" />
      {ends.map(({ label, at, side }) => (
        <Knob
          key={label}
          label={label}
          placed={placed}
          at={at}
          look="coral"
          onMove={({ to, gesture }) => lay(to, side, gesture)}
          onReset={() => set({ angle: 0 }, "reset")}
          onDragging={dragging}
        />
      ))}
    </g>
  );
}
