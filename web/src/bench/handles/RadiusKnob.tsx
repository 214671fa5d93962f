import { useRef, useState } from "react";
import { type Placed, type Point, perUnit, polar, round, toGrid } from "../model/geometry";
import { Knob } from "./Knob";

interface Props {
  label: string;
  placed: Placed;
  centre: Point;
  radius: number;
  /** Directions to choose from, in turns; the one with the most room inside the picture is taken. */
  turns: number[];
  /** The knob is never drawn nearer to the centre than this, so that it can be told from it. */
  least?: number;
  look?: "plain" | "coral";
  onRadius: (radius: number, gesture: string) => void;
  onReset: () => void;
  onDragging: (dragging: boolean) => void;
}

/** How far one can go from the centre in a direction before leaving the picture, in units. */
function roomFor(placed: Placed, centre: Point, turns: number): number {
  const way = polar({ x: 0, y: 0 }, turns, 1);
  const half = { x: placed.width / 2 / perUnit(placed), y: placed.height / 2 / perUnit(placed) };
  const across = Math.abs(way.x) < 1e-6 ? Number.POSITIVE_INFINITY : (half.x - Math.sign(way.x) * centre.x) / Math.abs(way.x);
  const down = Math.abs(way.y) < 1e-6 ? Number.POSITIVE_INFINITY : (half.y - Math.sign(way.y) * centre.y) / Math.abs(way.y);
  return Math.min(across, down) * 0.95;
}

/**
 * A knob that pulls a circle larger or smaller. A circle that leaves the picture has its knob inside it, in reach of the hand. Pulled
 * outwards it grows as the distance from the centre does, so that what is under the pointer stays there; drawn in, it soon comes to the hand.
 */
export function RadiusKnob({ label, placed, centre, radius, turns, least = 0, look = "plain", onRadius, onReset, onDragging }: Props) {
  const begun = useRef({ gesture: "", radius: 0, shown: 1 });
  const [held, setHeld] = useState<Point | null>(null);
  const best = turns.reduce((a, b) => (roomFor(placed, centre, b) > roomFor(placed, centre, a) + 1e-6 ? b : a));
  const shown = Math.max(least, Math.min(radius, Math.max(roomFor(placed, centre, best), 0.1)));
  return (
    <Knob
      label={label}
      placed={placed}
      at={held ?? polar(centre, best, shown)}
      look={look}
      onMove={({ to, snap, gesture }) => {
        if (begun.current.gesture !== gesture || gesture.startsWith("nudge")) begun.current = { gesture, radius, shown };
        const start = begun.current;
        const distance = Math.hypot(to.x - centre.x, to.y - centre.y);
        if (!gesture.startsWith("nudge")) setHeld(to);
        const share = distance / start.shown;
        const beyond = Math.max(0, start.radius - start.shown);
        // A circle smaller than where its knob is shown begins from where it is, and has come to the hand at twice as far.
        const late = start.radius < start.shown && share < 2;
        const next = late
          ? Math.max(0, start.radius + (share - 1) * (2 * start.shown - start.radius))
          : distance + beyond * (share > 1 ? share : share ** 4);
        onRadius(snap ? toGrid(next) : round(next), gesture);
      }}
      onReset={onReset}
      onDragging={(on) => {
        if (!on) setHeld(null);
        onDragging(on);
      }}
    />
  );
}
