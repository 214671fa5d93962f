import { useState } from "react";
import { clamp, type Point, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const WIDEST = 0.125;
const ENDS = [
  { label: "Horizon, right end", side: 1 },
  { label: "Horizon, left end", side: -1 },
] as const;

/** A line to lay along the horizon by its ends; the step turns the picture until that line is level. */
export function LevelHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const lean = -effectiveNumber(kind, settings, "angle");
  // Where the line lies up or down says nothing to the step; it is only kept here.
  const [height, setHeight] = useState(0);
  const reach = (placed.width / Math.min(placed.width, placed.height)) * 0.86;
  const rise = Math.tan(2 * Math.PI * lean) * reach;
  const at = (side: 1 | -1): Point => ({ x: side * reach, y: height + side * rise });
  const lay = (to: Point, side: 1 | -1, gesture: string) => {
    const other = at(side === 1 ? -1 : 1);
    const turns = Math.atan2((to.y - other.y) * side, Math.max((to.x - other.x) * side, 0.1)) / (2 * Math.PI);
    const kept = clamp(turns, -WIDEST, WIDEST);
    setHeight(other.y + side * Math.tan(2 * Math.PI * kept) * reach);
    set({ angle: round(-kept, 5) }, gesture);
  };
  return (
    <g>
      <Stroke from={toStage(placed, at(-1))} to={toStage(placed, at(1))} colour="var(--coral)" />
      {ENDS.map(({ label, side }) => (
        <Knob
          key={label}
          label={label}
          placed={placed}
          at={at(side)}
          look="coral"
          onMove={({ to, gesture }) => lay(to, side, gesture)}
          onReset={() => set({ angle: 0 }, "reset")}
          onDragging={dragging}
        />
      ))}
    </g>
  );
}
