import { useRef, useState } from "react";
import { clamp, type Placed, type Point, perUnit, round, toGrid, toStage, turnsOf } from "../model/geometry";
import { type Plate, plateOf, plateShown } from "../model/plates";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round, Stroke } from "./parts";
import type { HandleProps } from "./types";

const FARTHEST = 2;
const SNAP = 1 / 24;
/** The corner and the side of a plate that are dragged lie so far out, of the frame. */
const CORNER = 0.72;
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
const capital = (word: string) => `${word.charAt(0).toUpperCase()}${word.slice(1)}`;

/** An arrow for each plate, from where it was to where it is moved; of the one that was taken hold of last its outline too, to be scaled, turned, leaned. */
export function PlateHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const begun = useRef({ gesture: "", y: 0 });
  const [held, setHeld] = useState<string | null>(null);
  const plates = PLATES[String(effective(kind, settings, "plates"))] ?? [];
  const chosen = plates.find(({ plate }) => plate === held) ?? plates[0];
  return (
    <g>
      {plates.map(({ plate, base, colour }) => {
        const shift = { x: effectiveNumber(kind, settings, `${plate}_x`), y: effectiveNumber(kind, settings, `${plate}_y`) };
        const tip = { x: base.x + shift.x, y: base.y + shift.y };
        return (
          // biome-ignore lint/a11y/noStaticElementInteractions: its knob is the button; this hears which one it was
          <g key={plate} onFocus={() => setHeld(plate)} onPointerDown={() => setHeld(plate)}>
            <Round centre={toStage(placed, base)} radius={5} />
            <Stroke from={toStage(placed, base)} to={toStage(placed, tip)} colour={colour} />
            <Knob
              label={`${capital(plate)} channel`}
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
      {chosen && (
        <Outline
          name={chosen.plate}
          colour={chosen.colour}
          plate={plateOf((part) => effectiveNumber(kind, settings, `${chosen.plate}_${part}`))}
          placed={placed}
          set={set}
          dragging={dragging}
        />
      )}
    </g>
  );
}

interface OutlineProps extends Pick<HandleProps, "set" | "dragging"> {
  name: string;
  colour: string;
  plate: Plate;
  placed: Placed;
}

/** A plate's own frame as it is moved, with a corner to scale and turn it and a side to lean it. */
function Outline({ name, colour, plate, placed, set, dragging }: OutlineProps) {
  const unit = perUnit(placed);
  const half = { x: (CORNER * placed.width) / 2 / unit, y: (CORNER * placed.height) / 2 / unit };
  const corners = [
    { x: -half.x, y: -half.y },
    { x: half.x, y: -half.y },
    { x: half.x, y: half.y },
    { x: -half.x, y: half.y },
  ].map((corner) => plateShown(plate, corner));
  const path = corners.map((corner) => toStage(placed, corner)).map(({ x, y }, n) => `${n ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`);
  const shared = { placed, fill: colour, onDragging: dragging };
  const own = { x: half.x + plate.shear * half.y, y: -half.y };
  return (
    <g>
      <path d={`${path.join("")}Z`} fill="none" stroke="var(--trace-edge)" strokeWidth={3.5} pointerEvents="none" />
      <path d={`${path.join("")}Z`} fill="none" stroke={colour} strokeWidth={1.7} strokeDasharray="3 6" pointerEvents="none" />
      <Knob
        {...shared}
        label={`${capital(name)} channel, scale and turn`}
        at={plateShown(plate, { x: half.x, y: -half.y })}
        onMove={({ to, snap, gesture }) => {
          const way = { x: to.x - plate.x, y: to.y - plate.y };
          const turn = turnsOf(way) - turnsOf(own);
          const near = turn - Math.round(turn);
          const scale = Math.hypot(way.x, way.y) / Math.hypot(own.x, own.y);
          set(
            {
              [`${name}_scale`]: round(clamp(scale, 0.25, 4)),
              [`${name}_turn`]: round(clamp(snap ? Math.round(near / SNAP) * SNAP : near, -0.5, 0.5), 5),
            },
            gesture,
          );
        }}
        onReset={() => set({ [`${name}_scale`]: 1, [`${name}_turn`]: 0 }, "reset")}
      />
      <Knob
        {...shared}
        label={`${capital(name)} channel, shear`}
        at={plateShown(plate, { x: 0, y: -half.y })}
        onMove={({ to, gesture }) => {
          const angle = -2 * Math.PI * plate.turn;
          const [x, y] = [(to.x - plate.x) / plate.scale, (to.y - plate.y) / plate.scale];
          const across = x * Math.cos(angle) - y * Math.sin(angle);
          set({ [`${name}_shear`]: round(clamp(across / half.y, -1, 1)) }, gesture);
        }}
        onReset={() => set({ [`${name}_shear`]: 0 }, "reset")}
      />
    </g>
  );
}
