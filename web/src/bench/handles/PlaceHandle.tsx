import { useContext, useRef } from "react";
import { clamp, middleOf, type Point, perUnit, polar, round, toScreen, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { StageRoom } from "./away";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const NAMES = ["Top left corner", "Top right corner", "Bottom right corner", "Bottom left corner"] as const;
const SNAP = 1 / 24;
/** A corner that lies outside the stage has its knob so far within, in pixels. */
const MARGIN = 24;

/** How much of a way from the middle, along one side of the stage, lies within it; all of it where the middle is out of sight itself. */
const shareWithin = (from: number, to: number, side: number): number => {
  if ((to >= 0 && to <= side) || from <= MARGIN || from >= side - MARGIN) return 1;
  return ((to < 0 ? MARGIN : side - MARGIN) - from) / (to - from);
};

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
  const begun = useRef({ gesture: "", by: { x: 0, y: 0 } });
  const room = useContext(StageRoom);
  const inSight = (p: Point): Point => {
    const [from, to] = [toScreen(placed, middleOf(placed)), toScreen(placed, toStage(placed, p))];
    const share = room ? Math.min(shareWithin(from.x, to.x, room.width), shareWithin(from.y, to.y, room.height)) : 1;
    return { x: p.x * share, y: p.y * share };
  };
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
          at={inSight(at)}
          onMove={({ to: hand, gesture }) => {
            const from = base[k];
            if (!from) return;
            // A corner that lies outside is pulled by a knob within: it goes as far as that does.
            if (begun.current.gesture !== gesture || gesture.startsWith("nudge")) {
              const shown = inSight(at);
              begun.current = { gesture, by: { x: at.x - shown.x, y: at.y - shown.y } };
            }
            const to = { x: hand.x + begun.current.by.x, y: hand.y + begun.current.by.y };
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
