import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, useRef } from "react";
import { type Placed, type Point, toFrame, toGrid, toStage, unturned } from "../model/geometry";
import { EdgeMarker } from "./away";

export interface KnobMove {
  /** Where the knob is dragged to, in frame units. */
  to: Point;
  /** Shift is held: snap. */
  snap: boolean;
  /** Alt is held: both sides alike. */
  both: boolean;
  /** One name per drag, so that undo takes it back whole. */
  gesture: string;
}

interface Props {
  label: string;
  placed: Placed;
  at: Point;
  look?: "plain" | "coral";
  /** A colour of its own. */
  fill?: string;
  /** Shift draws it to a grid; without this the handle snaps in its own way. */
  grid?: boolean;
  onMove: (move: KnobMove) => void;
  onReset?: () => void;
  onDragging: (dragging: boolean) => void;
}

let drags = 0;
const STEP = 0.005;
const ARROWS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

/** A point on the picture to be dragged, nudged with the arrow keys (ten times as far with Shift) or reset by a double click. */
export function Knob({ label, placed, at, look = "plain", fill, grid = false, onMove, onReset, onDragging }: Props) {
  // The box may change under the hand, where the handle itself moves it: a drag is measured in the box it began in.
  const from = useRef<{ at: Point; placed: Placed }>({ at: { x: 0, y: 0 }, placed });
  const gesture = useRef("");
  const bind = useDrag(
    ({ first, last, movement: [mx, my], shiftKey, altKey, event }) => {
      event.stopPropagation();
      if (first) {
        from.current = { at: toStage(placed, at), placed };
        drags += 1;
        gesture.current = `drag-${drags}`;
        onDragging(true);
      }
      const begun = from.current;
      const way = unturned(begun.placed, { x: mx, y: my });
      const free = toFrame(begun.placed, { x: begun.at.x + way.x, y: begun.at.y + way.y });
      const to = grid && shiftKey ? { x: toGrid(free.x), y: toGrid(free.y) } : free;
      if (mx !== 0 || my !== 0) onMove({ to, snap: shiftKey, both: altKey, gesture: gesture.current });
      if (last) onDragging(false);
    },
    { pointer: { keys: false } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    const far = STEP * (event.shiftKey ? 10 : 1);
    onMove({ to: { x: at.x + arrow.x * far, y: at.y + arrow.y * far }, snap: false, both: event.altKey, gesture: `nudge-${label}` });
  };
  const spot = toStage(placed, at);
  return (
    <>
      <EdgeMarker label={label} placed={placed} spot={spot} />
      {/* biome-ignore lint/a11y/useSemanticElements: an SVG knob cannot be a button element */}
      <g
        {...bind()}
        className="knob"
        role="button"
        tabIndex={0}
        aria-label={label}
        transform={`translate(${spot.x} ${spot.y})`}
        onKeyDown={onKeyDown}
        onDoubleClick={onReset}
      >
        <title>{label}</title>
        <circle r={17} fill="transparent" />
        <circle className="halo" r={13} fill="none" />
        <circle
          className="dot"
          r={7.5}
          fill={fill ?? (look === "coral" ? "var(--coral)" : "var(--trace)")}
          stroke={look === "coral" ? "var(--trace)" : "var(--ink)"}
          strokeWidth={2.5}
        />
      </g>
    </>
  );
}
