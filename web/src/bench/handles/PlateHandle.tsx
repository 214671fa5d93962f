import { useRef } from "react";
import { clamp, type Point, round, toGrid, toStage } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round, Stroke } from "./parts";
import type { HandleProps } from "./types";

const FARTHEST = 2;
const PLATES: Record<string, { plate: string; base: Point; colour: string }[]> = {
  rgb: [
    { plate: "red", base: { x: -0.45, y: 0 }, colour: "var(--plate-red)" },
    { plate: "green", base: { x: 0, y: 0 }, colour: "var(--plate-green)" },
    { plate: "blue", base: { x: 0.45, y: 0 }, colour: "var(--plate-blue)" },
  ],
  "light-colour": [
    { plate: "light", base: { x: -0.3, y: 0 }, colour: "var(--trace)" },
    { plate: "colour", base: { x: 0.3, y: 0 }, colour: "var(--plate-colour)" },
  ],
};

/** An arrow for each plate, from where it was to where it is moved; Shift keeps it as high as it was. */
export function PlateHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const begun = useRef({ gesture: "", y: 0 });
  const plates = PLATES[String(effective(kind, settings, "plates"))] ?? [];
  return (
    <g>
      {plates.map(({ plate, base, colour }) => {
        const shift = { x: effectiveNumber(kind, settings, `${plate}_x`), y: effectiveNumber(kind, settings, `${plate}_y`) };
        const tip = { x: base.x + shift.x, y: base.y + shift.y };
        return (
          <g key={plate}>
            <Round centre={toStage(placed, base)} radius={5} />
            <Stroke from={toStage(placed, base)} to={toStage(placed, tip)} colour={colour} />
            <Knob
              label={`${plate.charAt(0).toUpperCase()}${plate.slice(1)} plate`}
              placed={placed}
              at={tip}
              fill={colour}
              onMove={({ to, snap, gesture }) => {
                if (begun.current.gesture !== gesture) begun.current = { gesture, y: shift.y };
                const [x, y] = [clamp(to.x - base.x, -FARTHEST, FARTHEST), clamp(to.y - base.y, -FARTHEST, FARTHEST)];
                set({ [`${plate}_x`]: round(snap ? toGrid(x * 5) / 5 : x), [`${plate}_y`]: snap ? begun.current.y : round(y) }, gesture);
              }}
              onReset={() => set({ [`${plate}_x`]: 0, [`${plate}_y`]: 0 }, "reset")}
              onDragging={dragging}
            />
          </g>
        );
      })}
    </g>
  );
}
