import { clamp, perUnit, round, toStage } from "../model/geometry";
import { effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round } from "./parts";
import { RadiusKnob } from "./RadiusKnob";
import type { HandleProps } from "./types";

/** The centre of a step, anywhere, also outside the picture; Shift draws it to the middle. */
export function CentreHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const centre = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  return (
    <Knob
      label="Centre"
      placed={placed}
      at={centre}
      onMove={({ to, snap, gesture }) => {
        const near = snap && Math.hypot(to.x, to.y) < 0.2;
        set(near ? { x: 0, y: 0 } : { x: round(clamp(to.x, -4, 4)), y: round(clamp(to.y, -4, 4)) }, gesture);
      }}
      onReset={() => set({ x: 0, y: 0 }, "reset")}
      onDragging={dragging}
    />
  );
}

/** Centre and reach, as most round bends have them. */
export function CentreReachHandle(props: HandleProps) {
  const { kind, settings, placed, set, dragging } = props;
  const centre = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const reach = effectiveNumber(kind, settings, "reach");
  const setting = kind.settings.find((s) => s.name === "reach");
  return (
    <g>
      <Round centre={toStage(placed, centre)} radius={reach * perUnit(placed)} dash="7 6" />
      <RadiusKnob
        label="Radius"
        placed={placed}
        centre={centre}
        radius={reach}
        turns={[0.25, 0.75]}
        onRadius={(radius, gesture) => set({ reach: clamp(radius, setting?.minimum ?? 0.05, setting?.maximum ?? 4) }, gesture)}
        onReset={() => set({ reach: Number(setting?.default ?? 1) }, "reset")}
        onDragging={dragging}
      />
      <CentreHandle {...props} />
    </g>
  );
}
