import { clamp, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const SNAP = 1 / 24;
const LEAST = 0.08;
const snapped = (turns: number, snap: boolean) => round(snap ? Math.round(turns / SNAP) * SNAP : turns);

/** Where light falls: its round with width, length, turn and soft edge; or the line of a side and how far it takes to be fully lit. */
export function LightHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const centre = { x: value("x"), y: value("y") };
  const [turn, reach, squash, soft] = [value("turn"), value("reach"), value("squash"), value("soft")];
  const shared = { placed, onDragging: dragging };
  const spot = toStage(placed, centre);
  const place = (
    <Knob
      {...shared}
      label="Centre"
      grid
      at={centre}
      onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -4, 4)), y: round(clamp(to.y, -4, 4)) }, gesture)}
      onReset={() => set({ x: 0, y: 0 }, "reset")}
    />
  );
  if (effective(kind, settings, "form") === "side") {
    const lit = polar(centre, turn, Math.max(reach, LEAST));
    const across = (at: { x: number; y: number }, side: number) => toStage(placed, polar(at, turn + 0.25, side * 4));
    return (
      <g>
        <Stroke from={across(centre, -1)} to={across(centre, 1)} />
        <Stroke from={across(lit, -1)} to={across(lit, 1)} dash="3 6" />
        <Stroke from={spot} to={toStage(placed, lit)} colour="var(--coral)" />
        <Knob
          {...shared}
          label="Turn and radius"
          look="coral"
          at={lit}
          onMove={({ to, snap, gesture }) => {
            const way = { x: to.x - centre.x, y: to.y - centre.y };
            set({ turn: snapped(turnsOf(way), snap), reach: round(clamp(Math.hypot(way.x, way.y), 0.02, 6)) }, gesture);
          }}
          onReset={() => set({ turn: 0, reach: 0.8 }, "reset")}
        />
        {place}
      </g>
    );
  }
  const unit = perUnit(placed);
  const round_ = {
    cx: spot.x,
    cy: spot.y,
    fill: "none",
    pointerEvents: "none",
    transform: `rotate(${360 * turn} ${spot.x} ${spot.y})`,
  } as const;
  const oval = (share: number, dash?: string) => (
    <>
      <ellipse {...round_} rx={share * reach * unit} ry={share * reach * squash * unit} stroke="var(--trace-edge)" strokeWidth={3.5} />
      <ellipse
        {...round_}
        rx={share * reach * unit}
        ry={share * reach * squash * unit}
        stroke="var(--trace)"
        strokeWidth={1.7}
        {...(dash ? { strokeDasharray: dash } : {})}
      />
    </>
  );
  const along = (to: { x: number; y: number }, turned: number) => {
    const way = polar({ x: 0, y: 0 }, turned, 1);
    return Math.abs((to.x - centre.x) * way.x + (to.y - centre.y) * way.y);
  };
  return (
    <g>
      {oval(1)}
      {oval(Math.max(1 - soft, 0), "3 6")}
      {oval(1 + soft, "3 6")}
      <Knob
        {...shared}
        label="Radius"
        at={polar(centre, turn + 0.25, Math.max(reach, LEAST))}
        onMove={({ to, gesture }) => {
          const wide = clamp(along(to, turn + 0.25), 0.02, 6);
          // Its length stays as it was.
          set({ reach: round(wide), squash: round(clamp((reach * squash) / wide, 0.1, 4)) }, gesture);
        }}
        onReset={() => set({ reach: 0.8, squash: 1 }, "reset")}
      />
      <Knob
        {...shared}
        label="Length, turn"
        look="coral"
        at={polar(centre, turn, Math.max(reach * squash, LEAST))}
        onMove={({ to, snap, gesture }) => {
          const way = { x: to.x - centre.x, y: to.y - centre.y };
          set({ turn: snapped(turnsOf(way), snap), squash: round(clamp(Math.hypot(way.x, way.y) / reach, 0.1, 4)) }, gesture);
        }}
        onReset={() => set({ turn: 0, squash: 1 }, "reset")}
      />
      <Knob
        {...shared}
        label="Soft edge"
        at={polar(centre, turn + 0.375, reach * (1 + soft) * Math.hypot(Math.SQRT1_2, Math.SQRT1_2 * squash))}
        onMove={({ to, gesture }) => {
          const [across, down] = [along(to, turn + 0.25) / reach, along(to, turn) / (reach * squash)];
          set({ soft: round(clamp(Math.hypot(across, down) - 1, 0.01, 1)) }, gesture);
        }}
        onReset={() => set({ soft: 0.6 }, "reset")}
      />
      {place}
    </g>
  );
}
