import { createContext, useContext, useEffect } from "react";
import { createPortal } from "react-dom";
import { type Placed, type Point, toScreen } from "../model/geometry";
import { useBench } from "../store";

/** The room handles are seen in, and where the markers of those that are not are drawn. */
export const StageRoom = createContext<{
  width: number;
  height: number;
  markers: SVGGElement | null;
  /** Where markers lie, by the labels of their handles, so that none lies on another. */
  taken: Map<string, Point>;
} | null>(null);

/** So far beyond the edge a handle cannot be taken hold of; and so far inside its marker lies, and it comes back to. */
const BEYOND = 4;
const MARKER = 18;
const INSIDE = 90;

const APART = 30;

/** The nearest place along the edges that no other marker has. */
function freeSpot(taken: Map<string, Point>, label: string, at: Point, room: { width: number; height: number }): Point {
  const others = [...taken].filter(([name]) => name !== label).map(([, spot]) => spot);
  const free = (spot: Point) => others.every((other) => Math.hypot(other.x - spot.x, other.y - spot.y) >= APART - 1);
  const upright = at.x <= MARKER || at.x >= room.width - MARKER;
  for (let n = 0; n < 12; n += 1) {
    const by = APART * Math.ceil(n / 2) * (n % 2 ? 1 : -1);
    const spot = upright ? { x: at.x, y: within(at.y + by, MARKER, room.height) } : { x: within(at.x + by, MARKER, room.width), y: at.y };
    if (free(spot)) return spot;
  }
  return at;
}

const within = (value: number, edge: number, most: number) => Math.min(most - edge, Math.max(edge, value));

/** At the edge of the stage, the sign of a handle that lies outside; a press moves the view until it is seen. */
export function EdgeMarker({ label, placed, spot }: { label: string; placed: Placed; spot: Point }) {
  const room = useContext(StageRoom);
  useEffect(() => () => void room?.taken.delete(label), [room, label]);
  if (!room?.markers) return null;
  const { x, y } = toScreen(placed, spot);
  room.taken.delete(label);
  if (x >= -BEYOND && y >= -BEYOND && x <= room.width + BEYOND && y <= room.height + BEYOND) return null;
  const at = freeSpot(room.taken, label, { x: within(x, MARKER, room.width), y: within(y, MARKER, room.height) }, room);
  room.taken.set(label, at);
  const turn = (Math.atan2(y - at.y, x - at.x) * 180) / Math.PI;
  const lead = () => {
    const { pan, patch } = useBench.getState();
    const [dx, dy] = [within(x, INSIDE, room.width) - x, within(y, INSIDE, room.height) - y];
    patch({ pan: { x: pan.x + dx, y: pan.y + dy } });
  };
  return createPortal(
    // biome-ignore lint/a11y/useSemanticElements: a sign in an SVG cannot be a button element
    <g
      className="edge-marker"
      role="button"
      tabIndex={0}
      aria-label={`Bring back ${label}`}
      transform={`translate(${at.x} ${at.y})`}
      onPointerUp={lead}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        event.stopPropagation();
        lead();
      }}
    >
      <title>{`${label} is outside the view. Click to show it.`}</title>
      <circle r={13} fill="var(--glass)" stroke="var(--ink)" strokeWidth={1.5} />
      <path d="M-4 -5 L6 0 L-4 5 Z" fill="var(--coral)" transform={`rotate(${turn})`} />
    </g>,
    room.markers,
  );
}
