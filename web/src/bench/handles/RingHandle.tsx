import { clamp, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Round, Stroke } from "./parts";
import { RadiusKnob } from "./RadiusKnob";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;
const CENTRE_PULL = 0.06;
/** The hole's knob is never nearer to the centre's than this, in pixels of the screen. */
const APART = 40;

/** Centre, hole, reach and seam ray of a ring, on the picture. */
export function RingHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const centre = { x: value("x"), y: value("y") };
  const reach = value("reach");
  const hole = value("hole");
  const seam = value("seam");
  const spread = effective(kind, settings, "spread");
  const hasHole = spread === "even" || spread === "depth";
  const unit = perUnit(placed);
  const spot = toStage(placed, centre);
  const rayFrom = polar(centre, seam, hasHole ? hole : 0);
  // The knobs stay within sight: where the reach lies outside the picture, its circle is still drawn true.
  const rayEnd = polar(centre, seam, Math.min(reach, 0.94));
  // Right or left, unless the seam's knob is there.
  const sides = Math.abs((seam % 1) - 0.25) < 0.06 ? [0.75] : Math.abs((seam % 1) - 0.75) < 0.06 ? [0.25] : [0.25, 0.75];
  const shared = { placed, onDragging: dragging };
  return (
    <g>
      <Round centre={spot} radius={reach * unit} dash="7 6" />
      {hasHole && hole > 0 && <Round centre={spot} radius={hole * unit} />}
      <Stroke from={toStage(placed, rayFrom)} to={toStage(placed, rayEnd)} colour="var(--coral)" />
      <RadiusKnob
        {...shared}
        label="Size"
        centre={centre}
        radius={reach}
        turns={sides}
        onRadius={(radius, gesture) => set({ reach: clamp(radius, 0.05, 4) }, gesture)}
        onReset={() => set({ reach: 1 }, "reset")}
      />
      {hasHole && (
        <RadiusKnob
          {...shared}
          label="Hole"
          centre={centre}
          radius={hole}
          turns={[(seam + 0.625) % 1]}
          least={APART / unit}
          onRadius={(radius, gesture) => set({ hole: radius < 0.005 && spread === "even" ? 0 : clamp(radius, 0, 3) }, gesture)}
          onReset={() => set({ hole: null }, "reset")}
        />
      )}
      <Knob
        {...shared}
        label="Seam"
        look="coral"
        at={rayEnd}
        onMove={({ to, snap, gesture }) => {
          const turns = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
          set({ seam: round(snap ? Math.round(turns / SNAP) * SNAP : turns) }, gesture);
        }}
        onReset={() => set({ seam: null }, "reset")}
      />
      <Knob
        {...shared}
        label="Centre"
        at={centre}
        onMove={({ to, snap, gesture }) => {
          const near = snap && Math.hypot(to.x, to.y) < CENTRE_PULL * 3;
          set(near ? { x: 0, y: 0 } : { x: round(clamp(to.x, -4, 4)), y: round(clamp(to.y, -4, 4)) }, gesture);
        }}
        onReset={() => set({ x: 0, y: 0 }, "reset")}
      />
    </g>
  );
}
