import { useDrag } from "@use-gesture/react";
import { useRef } from "react";
import { clamp, type Placed, perUnit, placedLayer, polar, round, toStage, transformOf, turnsOf, unturned } from "../model/geometry";
import { HERE, type Layer, type Place } from "../model/piece";
import { useBenchPart } from "../store";
import { Knob } from "./Knob";
import { Stroke } from "./parts";

const SNAP = 1 / 24;

interface Props {
  layer: Layer;
  piece: Placed;
  pieceRatio: number;
  ratio: number;
}

let drags = 0;

/** Where the layer lies on the piece: dragged by its face, scaled by its corner (its proportions stay), turned by its arm. */
export function LayerPlaceHandle({ layer, piece, pieceRatio, ratio }: Props) {
  const { edit, patch } = useBenchPart("edit", "patch");
  const spot: Place = layer.place ?? HERE;
  const contain = layer.source.fit === "contain";
  const box = placedLayer(piece, pieceRatio, ratio, contain, spot);
  const set = (change: Partial<Place>, gesture: string) =>
    edit({ type: "entry", id: layer.id, change: { place: { ...spot, ...change } }, gesture: `${layer.id}-${gesture}` });
  const dragging = (now: boolean) => patch({ dragging: now });
  const from = useRef({ spot, gesture: "" });
  // A knob is measured in the box as it was when its drag began: so must be what it changes.
  const held = useRef({ spot, gesture: "" });
  const begun = (gesture: string): Place => {
    if (held.current.gesture !== gesture || gesture.startsWith("nudge")) held.current = { spot, gesture };
    return held.current.spot;
  };
  const bind = useDrag(({ first, last, movement: [mx, my], shiftKey, event }) => {
    event.stopPropagation();
    if (first) {
      drags += 1;
      from.current = { spot, gesture: `place-${drags}` };
      dragging(true);
    }
    const way = unturned(piece, { x: mx, y: my });
    const free = { x: from.current.spot.x + way.x / perUnit(piece), y: from.current.spot.y + way.y / perUnit(piece) };
    // With Shift it keeps to one axis, and to the middle when near.
    const straight = shiftKey
      ? Math.abs(way.x) > Math.abs(way.y)
        ? { ...free, y: from.current.spot.y }
        : { ...free, x: from.current.spot.x }
      : free;
    if (mx !== 0 || my !== 0) set({ x: round(clamp(straight.x, -20, 20)), y: round(clamp(straight.y, -20, 20)) }, from.current.gesture);
    if (last) dragging(false);
  });
  const half = { x: box.width / 2 / perUnit(box), y: box.height / 2 / perUnit(box) };
  // A corner that leaves the piece keeps its knob in reach of the hand, on the way to it.
  const near = (0.46 * Math.min(piece.width, piece.height)) / perUnit(box);
  const k = Math.min(1, near / Math.max(half.x, half.y));
  const corner = { x: half.x * k, y: half.y * k };
  const arm = polar({ x: 0, y: 0 }, 0, Math.min(half.y, 0.85, near));
  return (
    <svg className="handles" aria-label={`Place of ${layer.name || "the layer"}`}>
      <g transform={transformOf(box)}>
        {/* biome-ignore lint/a11y/useSemanticElements: a face of a picture cannot be a button element */}
        <rect
          {...bind()}
          role="button"
          tabIndex={0}
          aria-label="Move the layer"
          className="knob face"
          x={box.left}
          y={box.top}
          width={box.width}
          height={box.height}
          fill="transparent"
          stroke="var(--trace)"
          strokeWidth={2}
          strokeDasharray="7 6"
          onKeyDown={(event) => {
            const step = event.shiftKey ? 0.05 : 0.005;
            const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
            if (!way) return;
            event.preventDefault();
            set({ x: round(spot.x + (way[0] ?? 0) * step), y: round(spot.y + (way[1] ?? 0) * step) }, "nudge");
          }}
          // Words are written by a double click: the stage takes it.
          onDoubleClick={() => layer.source.kind !== "lettering" && set({ x: 0, y: 0 }, "reset")}
        />
        <Stroke from={toStage(box, { x: 0, y: 0 })} to={toStage(box, arm)} colour="var(--coral)" />
        <Knob
          label="Scale of the layer"
          placed={box}
          at={corner}
          onMove={({ to, snap, gesture }) => {
            const share = Math.hypot(to.x, to.y) / Math.hypot(corner.x, corner.y);
            const next = clamp(begun(gesture).scale * share, 0.01, 20);
            set({ scale: round(snap ? Math.round(next * 10) / 10 || 0.1 : next) }, gesture);
          }}
          onReset={() => set({ scale: 1 }, "reset")}
          onDragging={dragging}
        />
        <Knob
          label="Turn of the layer"
          look="coral"
          placed={box}
          at={arm}
          onMove={({ to, snap, gesture }) => {
            const there = turnsOf(to);
            const more = (there - Math.round(there)) * (spot.flip ? -1 : 1);
            const next = begun(gesture).turn + more;
            set({ turn: round(clamp(snap ? Math.round(next / SNAP) * SNAP : next, -4, 4)) }, gesture);
          }}
          onReset={() => set({ turn: 0 }, "reset")}
          onDragging={dragging}
        />
      </g>
    </svg>
  );
}
