import { clamp, perUnit, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round } from "./parts";
import { RadiusKnob } from "./RadiusKnob";
import type { HandleProps } from "./types";

/** The middle that is mended: how far it reaches, where it begins to fade, and where it lies. */
export function CentreDiscHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const centre = { x: value("x"), y: value("y") };
  const [radius, soft] = [value("radius"), value("soft")];
  const spot = toStage(placed, centre);
  const shared = { placed, onDragging: dragging };
  const inner = radius * (1 - soft);
  return (
    <g>
      <Round centre={spot} radius={radius * perUnit(placed)} />
      <Round centre={spot} radius={inner * perUnit(placed)} dash="3 6" />
      <RadiusKnob
        {...shared}
        label="Radius"
        centre={centre}
        radius={radius}
        turns={[0.25, 0.75]}
        onRadius={(next, gesture) => set({ radius: round(clamp(next, 0.01, 1.5)) }, gesture)}
        onReset={() => set({ radius: null }, "reset")}
      />
      <RadiusKnob
        {...shared}
        label="Soft edge"
        look="coral"
        centre={centre}
        radius={inner}
        turns={[0.125, 0.375, 0.625, 0.875]}
        onRadius={(next, gesture) => set({ soft: round(clamp(1 - next / Math.max(radius, 0.01), 0, 1)) }, gesture)}
        onReset={() => set({ soft: 0.5 }, "reset")}
      />
      <Knob
        {...shared}
        label="Centre"
        grid
        at={centre}
        onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -10, 10)), y: round(clamp(to.y, -10, 10)) }, gesture)}
        onReset={() => set({ x: null, y: null }, "reset")}
      />
    </g>
  );
}
