import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, useRef } from "react";
import { type Placed, type Point, toFrame, toStage } from "../model/geometry";

export interface KnobMove {
  /** Where the knob is dragged to, in frame units. */
  to: Point;
  /** Shift is held: snap. */
  snap: boolean;
  /** One name per drag, so that undo takes it back whole. */
  gesture: string;
}

interface Props {
  label: string;
  placed: Placed;
  at: Point;
  look?: "plain" | "coral";
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
export function Knob({ label, placed, at, look = "plain", onMove, onReset, onDragging }: Props) {
  const from = useRef<Point>({ x: 0, y: 0 });
  const gesture = useRef("");
  const bind = useDrag(
    ({ first, last, movement: [mx, my], shiftKey, event }) => {
      event.stopPropagation();
      if (first) {
        from.current = toStage(placed, at);
        drags += 1;
        gesture.current = `drag-${drags}`;
        onDragging(true);
      }
      const to = toFrame(placed, { x: from.current.x + mx, y: from.current.y + my });
      if (mx !== 0 || my !== 0) onMove({ to, snap: shiftKey, gesture: gesture.current });
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
    onMove({ to: { x: at.x + arrow.x * far, y: at.y + arrow.y * far }, snap: false, gesture: `nudge-${label}` });
  };
  const spot = toStage(placed, at);
  return (
    // biome-ignore lint/a11y/useSemanticElements: an SVG knob cannot be a button element
    <g
      {...bind()}
      className="knob"
      role="button"
      tabIndex={0}
      aria-label={label}
      transform={`translate(${spot.x} ${spot.y})`}
      onKeyDown={onKeyDown}
      onDoubleClick={onReset}
      style={{ touchAction: "none" }}
    >
      <title>{label}</title>
      <circle r={17} fill="transparent" />
      <circle
        className="dot"
        r={7.5}
        fill={look === "coral" ? "var(--coral)" : "#fffdf9"}
        stroke={look === "coral" ? "#fffdf9" : "#22292c"}
        strokeWidth={2.5}
      />
    </g>
  );
}
