import { clamp, perUnit, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round } from "./parts";
import { RadiusKnob } from "./RadiusKnob";
import type { HandleProps } from "./types";

/** The circle up to which the picture is whole, the one where only the colour is left, and their centre. */
export function RimHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const centre = { x: value("x"), y: value("y") };
  const radius = value("radius");
  const outer = radius + value("width");
  const unit = perUnit(placed);
  const spot = toStage(placed, centre);
  const shared = { placed, onDragging: dragging };
  return (
    <g>
      <Round centre={spot} radius={radius * unit} />
      <Round centre={spot} radius={outer * unit} dash="3 6" />
      <RadiusKnob
        {...shared}
        label="Radius"
        centre={centre}
        radius={radius}
        turns={[0.25, 0.75]}
        onRadius={(next, gesture) => set({ radius: clamp(next, 0.05, 4) }, gesture)}
        onReset={() => set({ radius: null }, "reset")}
      />
      <RadiusKnob
        {...shared}
        label="Fade"
        look="coral"
        centre={centre}
        radius={outer}
        turns={[0.125, 0.375, 0.625, 0.875]}
        onRadius={(next, gesture) => set({ width: round(clamp(next - radius, 0, 3)) }, gesture)}
        onReset={() => set({ width: null }, "reset")}
      />
      <Knob
        {...shared}
        label="Centre"
        grid
        at={centre}
        onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -3, 3)), y: round(clamp(to.y, -3, 3)) }, gesture)}
        onReset={() => set({ x: null, y: null }, "reset")}
      />
    </g>
  );
}
