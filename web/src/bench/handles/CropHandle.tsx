import { clamp, type Placed, type Point, round, toFrame, toStage } from "../model/geometry";
import type { Settings } from "../model/piece";
import { effectiveNumber } from "../model/settings";
import { useBench } from "../store";
import { Knob, type KnobMove } from "./Knob";
import type { HandleProps } from "./types";

const LEAST = 0.02;

interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

const stageOf = (placed: Placed, u: number, v: number): Point => ({
  x: placed.left + u * placed.width,
  y: placed.top + v * placed.height,
});

function sharesOf(placed: Placed, to: Point): { u: number; v: number } {
  const stage = toStage(placed, to);
  return {
    u: clamp((stage.x - placed.left) / placed.width, 0, 1),
    v: clamp((stage.y - placed.top) / placed.height, 0, 1),
  };
}

/** Where a corner must be for the box to keep its ratio: as far across as asked, as far down as follows (both less at the border). */
function inRatio(box: Box, side: { u: number; v: number }, u: number): { u: number; v: number } {
  const across = box.right - box.left;
  const down = box.bottom - box.top;
  const fixed = { u: side.u < 0 ? box.right : box.left, v: side.v < 0 ? box.bottom : box.top };
  const room = side.v < 0 ? fixed.v : 1 - fixed.v;
  const width = Math.min(Math.abs(u - fixed.u), (room / down) * across);
  return { u: fixed.u + side.u * width, v: fixed.v + side.v * (width / across) * down };
}

/** Move one corner or side of the box, keeping some room inside. */
function pulled(box: Box, side: { u: -1 | 0 | 1; v: -1 | 0 | 1 }, to: { u: number; v: number }, locked: boolean): Settings {
  const { u, v } = locked && side.u !== 0 && side.v !== 0 ? inRatio(box, side, to.u) : to;
  const change: Settings = {};
  if (side.u === -1) change.left = round(Math.min(u, box.right - LEAST));
  if (side.u === 1) change.right = round(Math.max(u, box.left + LEAST));
  if (side.v === -1) change.top = round(Math.min(v, box.bottom - LEAST));
  if (side.v === 1) change.bottom = round(Math.max(v, box.top + LEAST));
  return change;
}

/** Give the side opposite to each moved one the same distance from the border, so that the box stays about the picture's centre. */
function centred(change: Settings): Settings {
  const most = 0.5 - LEAST / 2;
  const out: Settings = {};
  for (const [low, high] of [
    ["left", "right"],
    ["top", "bottom"],
  ] as const) {
    const moved = change[low] ?? (change[high] === undefined ? undefined : 1 - Number(change[high]));
    if (moved === undefined) continue;
    out[low] = round(Math.min(Number(moved), most));
    out[high] = round(1 - Math.min(Number(moved), most));
  }
  return out;
}

const SIDES = [
  { label: "Crop, top left corner", u: -1, v: -1 },
  { label: "Crop, top side", u: 0, v: -1 },
  { label: "Crop, top right corner", u: 1, v: -1 },
  { label: "Crop, right side", u: 1, v: 0 },
  { label: "Crop, bottom right corner", u: 1, v: 1 },
  { label: "Crop, bottom side", u: 0, v: 1 },
  { label: "Crop, bottom left corner", u: -1, v: 1 },
  { label: "Crop, left side", u: -1, v: 0 },
] as const;

/** The crop box on the uncropped picture: corners, sides, and the middle to move it. */
export function CropHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const crop = useBench((state) => state.crop);
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const box: Box = { left: value("left"), top: value("top"), right: value("right"), bottom: value("bottom") };
  const a = stageOf(placed, box.left, box.top);
  const b = stageOf(placed, box.right, box.bottom);
  const middle = { u: (box.left + box.right) / 2, v: (box.top + box.bottom) / 2 };
  const move = ({ to, gesture }: KnobMove) => {
    const { u, v } = sharesOf(placed, to);
    const dx = clamp(u - middle.u, -box.left, 1 - box.right);
    const dy = clamp(v - middle.v, -box.top, 1 - box.bottom);
    set(
      {
        left: round(box.left + dx),
        right: round(box.right + dx),
        top: round(box.top + dy),
        bottom: round(box.bottom + dy),
      },
      gesture,
    );
  };
  const knobAt = (u: number, v: number) => toFrame(placed, stageOf(placed, u, v));
  return (
    <g>
      <path
        fillRule="evenodd"
        fill="var(--trace-edge)"
        d={`M${placed.left} ${placed.top}h${placed.width}v${placed.height}h${-placed.width}zM${a.x} ${a.y}V${b.y}H${b.x}V${a.y}z`}
      />
      <rect x={a.x} y={a.y} width={b.x - a.x} height={b.y - a.y} fill="none" stroke="var(--trace)" strokeWidth={2} />
      {SIDES.map((side) => (
        <Knob
          key={side.label}
          label={side.label}
          placed={placed}
          at={knobAt(
            side.u === 0 ? middle.u : side.u < 0 ? box.left : box.right,
            side.v === 0 ? middle.v : side.v < 0 ? box.top : box.bottom,
          )}
          onMove={({ to, snap, both, gesture }) => {
            const change = pulled(box, side, sharesOf(placed, to), snap || crop.ratio);
            set(both || crop.centred ? centred(change) : change, gesture);
          }}
          onDragging={dragging}
        />
      ))}
      <Knob
        label="Crop, whole box"
        placed={placed}
        look="coral"
        at={knobAt(middle.u, middle.v)}
        onMove={move}
        onReset={() => set({ left: 0, top: 0, right: 1, bottom: 1 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
