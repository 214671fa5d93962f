import { useDrag } from "@use-gesture/react";
import { useRef } from "react";
import { clamp, type Placed, type Point, perUnit, polar, round, toStage, turnsOf, unturned } from "../model/geometry";
import type { PieceBox } from "../model/piece";
import { useBench } from "../store";
import { Knob } from "./Knob";
import { Stroke } from "./parts";

const SNAP = 1 / 24;
const NARROWEST = 0.05;
const FAR = 1e5;
let drags = 0;

interface Props {
  box: PieceBox;
  placed: Placed;
  /** The ratio that is kept, or null where sides are free. */
  ratio: number | null;
}

/** The box that holds all of a piece that lies there. */
export const wholeBox = (placed: Placed): PieceBox => ({
  x: 0,
  y: 0,
  rx: round(placed.width / 2 / perUnit(placed)),
  ry: round(placed.height / 2 / perUnit(placed)),
  turn: 0,
});

/** What is exported of the piece: a box about its middle. Its face moves it, its corners size it on all sides alike, its arm turns it. */
export function BoxHandle({ box, placed, ratio }: Props) {
  const edit = useBench((state) => state.edit);
  const patch = useBench((state) => state.patch);
  const from = useRef({ box, gesture: "" });
  const set = (change: Partial<PieceBox>, gesture: string) => edit({ type: "box", box: { ...box, ...change }, gesture: `box-${gesture}` });
  const dragging = (now: boolean) => patch({ dragging: now });
  const angle = 2 * Math.PI * box.turn;
  const about = (x: number, y: number): Point => ({
    x: box.x + x * Math.cos(angle) - y * Math.sin(angle),
    y: box.y + x * Math.sin(angle) + y * Math.cos(angle),
  });
  const local = (to: Point): Point => {
    const [dx, dy] = [to.x - box.x, to.y - box.y];
    return { x: dx * Math.cos(angle) + dy * Math.sin(angle), y: dy * Math.cos(angle) - dx * Math.sin(angle) };
  };
  const bind = useDrag(({ first, last, movement: [mx, my], event }) => {
    event.stopPropagation();
    if (first) {
      drags += 1;
      from.current = { box, gesture: `move-${drags}` };
      dragging(true);
    }
    const way = unturned(placed, { x: mx, y: my });
    const start = from.current.box;
    if (mx || my)
      set(
        { x: round(clamp(start.x + way.x / perUnit(placed), -20, 20)), y: round(clamp(start.y + way.y / perUnit(placed), -20, 20)) },
        from.current.gesture,
      );
    if (last) dragging(false);
  });
  const corners = [about(-box.rx, -box.ry), about(box.rx, -box.ry), about(box.rx, box.ry), about(-box.rx, box.ry)];
  const path = (points: Point[]) =>
    `${points
      .map((point) => toStage(placed, point))
      .map(({ x, y }, n) => `${n ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`)
      .join("")}Z`;
  const sized = (to: Point, kept: boolean): Partial<PieceBox> => {
    const { x, y } = local(to);
    const [rx, ry] = [clamp(Math.abs(x), 0.05, 20), clamp(Math.abs(y), 0.05, 20)];
    const wanted = ratio ?? (kept ? box.rx / box.ry : null);
    if (wanted !== null) {
      const wide = Math.max(rx, ry * wanted);
      return { rx: round(wide), ry: round(wide / wanted) };
    }
    return { rx: round(clamp(rx, ry * NARROWEST, ry / NARROWEST)), ry: round(ry) };
  };
  return (
    <g>
      <path
        d={`M${-FAR} ${-FAR}H${FAR}V${FAR}H${-FAR}Z${path(corners)}`}
        fill="var(--trace-edge)"
        fillRule="evenodd"
        pointerEvents="none"
      />
      {/* biome-ignore lint/a11y/useSemanticElements: a face of a picture cannot be a button element */}
      <path
        {...bind()}
        role="button"
        tabIndex={0}
        aria-label="Move the box"
        className="knob face"
        d={path(corners)}
        fill="transparent"
        stroke="var(--trace)"
        strokeWidth={2}
        onKeyDown={(event) => {
          const step = event.shiftKey ? 0.05 : 0.005;
          const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
          if (!way) return;
          event.preventDefault();
          set({ x: round(box.x + (way[0] ?? 0) * step), y: round(box.y + (way[1] ?? 0) * step) }, "nudge");
        }}
        onDoubleClick={() => set({ x: 0, y: 0 }, "reset")}
      />
      <Stroke from={toStage(placed, box)} to={toStage(placed, about(0, -box.ry * 0.72))} colour="var(--coral)" />
      {corners.map((corner, n) => (
        <Knob
          // biome-ignore lint/suspicious/noArrayIndexKey: a corner has no name but its number
          key={n}
          label={`Box, corner ${n + 1}`}
          placed={placed}
          at={corner}
          onMove={({ to, snap, gesture }) => set(sized(to, snap), gesture)}
          onDragging={dragging}
        />
      ))}
      <Knob
        label="Box, turn"
        look="coral"
        placed={placed}
        at={polar(box, box.turn, box.ry * 0.72)}
        onMove={({ to, snap, gesture }) => {
          const there = turnsOf({ x: to.x - box.x, y: to.y - box.y });
          const near = there > 0.5 ? there - 1 : there;
          set({ turn: round(snap ? Math.round(near / SNAP) * SNAP : near, 5) }, gesture);
        }}
        onReset={() => set({ turn: 0 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
