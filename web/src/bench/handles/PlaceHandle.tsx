import { clamp, type Point, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const NAMES = ["Top left corner", "Top right corner", "Bottom right corner", "Bottom left corner"] as const;
const SNAP = 1 / 24;

/** The picture's outline as it is placed: its corners to pull, its middle to move, an arm to turn and scale it. */
export function PlaceHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const offsets = effective(kind, settings, "corners") as number[][];
  const half = { x: placed.width / 2 / perUnit(placed), y: placed.height / 2 / perUnit(placed) };
  const [scale, turn, shear] = [value("scale"), value("turn"), value("shear")];
  const centre = { x: value("x"), y: value("y") };
  const c = Math.cos(2 * Math.PI * turn);
  const s = Math.sin(2 * Math.PI * turn);
  const plain = (p: Point): Point => {
    const x = (p.x - shear * p.y) * scale;
    const y = p.y * scale;
    return { x: centre.x + c * x - s * y, y: centre.y + s * x + c * y };
  };
  const frame: Point[] = [
    { x: -half.x, y: -half.y },
    { x: half.x, y: -half.y },
    { x: half.x, y: half.y },
    { x: -half.x, y: half.y },
  ];
  const base = frame.map(plain);
  const corners = base.map((p, k) => ({ x: p.x + (offsets[k]?.[0] ?? 0), y: p.y + (offsets[k]?.[1] ?? 0) }));
  const arm = polar(centre, turn, 0.5 * scale);
  const shared = { placed, onDragging: dragging };
  return (
    <g>
      {corners.map((p, k) => {
        const next = corners[(k + 1) % 4];
        return next && <Stroke key={NAMES[k]} from={toStage(placed, p)} to={toStage(placed, next)} dash="6 5" />;
      })}
      <Stroke from={toStage(placed, centre)} to={toStage(placed, arm)} colour="var(--coral)" />
      {corners.map((at, k) => (
        <Knob
          {...shared}
          key={NAMES[k]}
          label={NAMES[k] ?? ""}
          grid
          at={at}
          onMove={({ to, gesture }) => {
            const from = base[k];
            if (!from) return;
            const moved = offsets.map((old, n) =>
              n === k ? [round(clamp(to.x - from.x, -3, 3)), round(clamp(to.y - from.y, -3, 3))] : old,
            );
            set({ corners: moved }, gesture);
          }}
          onReset={() => set({ corners: offsets.map((old, n) => (n === k ? [0, 0] : old)) }, "reset")}
        />
      ))}
      <Knob
        {...shared}
        label="Turn and scale"
        look="coral"
        at={arm}
        onMove={({ to, snap, gesture }) => {
          const way = { x: to.x - centre.x, y: to.y - centre.y };
          const there = turnsOf(way);
          const near = there - Math.round(there - turn);
          set(
            {
              scale: round(clamp(Math.hypot(way.x, way.y) * 2, 0.05, 8)),
              turn: round(clamp(snap ? Math.round(near / SNAP) * SNAP : near, -1, 1)),
            },
            gesture,
          );
        }}
        onReset={() => set({ scale: 1, turn: 0 }, "reset")}
      />
      <Knob
        {...shared}
        label="Move"
        grid
        at={centre}
        onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -4, 4)), y: round(clamp(to.y, -4, 4)) }, gesture)}
        onReset={() => set({ x: 0, y: 0 }, "reset")}
      />
    </g>
  );
}
