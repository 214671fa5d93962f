import { clamp, perUnit, polar, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round } from "./parts";
import type { HandleProps } from "./types";

/** The circle up to which the picture is whole, the one where only the colour is left, and their centre. */
export function RimHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const centre = { x: value("x"), y: value("y") };
  const radius = value("radius");
  const outer = radius + value("width");
  const unit = perUnit(placed);
  const spot = toStage(placed, centre);
  const far = (p: { x: number; y: number }) => Math.hypot(p.x - centre.x, p.y - centre.y);
  const shared = { placed, onDragging: dragging };
  return (
    <g>
      <Round centre={spot} radius={radius * unit} />
      <Round centre={spot} radius={outer * unit} dash="3 6" />
      <Knob
        {...shared}
        label="Rim radius"
        at={polar(centre, 0.25, radius)}
        onMove={({ to, gesture }) => set({ radius: round(clamp(far(to), 0.05, 4)) }, gesture)}
        onReset={() => set({ radius: 0.92 }, "reset")}
      />
      <Knob
        {...shared}
        label="Rim fade"
        look="coral"
        at={polar(centre, 0.125, outer)}
        onMove={({ to, gesture }) => set({ width: round(clamp(far(to) - radius, 0, 3)) }, gesture)}
        onReset={() => set({ width: 0.3 }, "reset")}
      />
      <Knob
        {...shared}
        label="Rim centre"
        at={centre}
        onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -3, 3)), y: round(clamp(to.y, -3, 3)) }, gesture)}
        onReset={() => set({ x: 0, y: 0 }, "reset")}
      />
    </g>
  );
}
