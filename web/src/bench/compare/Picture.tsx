import { type RefObject, useEffect, useRef } from "react";
import type { Placed } from "../model/geometry";
import type { Shown } from "../useLook";
import "./Picture.css";

interface Cut {
  /** Share of the room's width where the line crosses its middle height. */
  at: number;
  /** The line's lean in turns; 0 is upright. */
  turn: number;
  /** 1 keeps what lies right of the line, -1 what lies left. */
  side: 1 | -1;
  room: { width: number; height: number };
}

const FAR = 8000;

/** A half plane beside the line, in the coordinates of the room. */
function halfPlane({ at, turn, side, room }: Cut): string {
  const angle = 2 * Math.PI * turn;
  const along = { x: Math.sin(angle), y: -Math.cos(angle) };
  const out = { x: side * Math.cos(angle), y: side * Math.sin(angle) };
  const middle = { x: at * room.width, y: room.height / 2 };
  const corner = (a: number, b: number) =>
    `${(middle.x + along.x * a + out.x * b).toFixed(1)}px ${(middle.y + along.y * a + out.y * b).toFixed(1)}px`;
  return `polygon(${corner(FAR, 0)}, ${corner(FAR, FAR)}, ${corner(-FAR, FAR)}, ${corner(-FAR, 0)})`;
}

interface Props {
  shown: Shown;
  box: Placed;
  cut: Cut | null;
  /** Whether its own pixels are to be seen, not a blend of them. */
  exact?: boolean;
  /** Where a way to paint the next picture in place is left. */
  paint?: RefObject<((shown: Shown) => boolean) | null>;
}

/** A look on the stage, turned as the view is, perhaps only on one side of the split line. */
export function Picture({ shown, box, cut, paint, exact }: Props) {
  const image = useRef<HTMLImageElement>(null);
  useEffect(() => {
    if (!paint) return;
    // React knows nothing of drafts under the hand: the next picture it is told of comes when the hand rests.
    paint.current = (next) => {
      if (!image.current) return false;
      image.current.src = next.url;
      return true;
    };
    return () => {
      paint.current = null;
    };
  }, [paint]);
  const { left, top, width, height, turn = 0 } = box;
  const style = { left, top, width, height, ...(turn ? { transform: `rotate(${turn}turn)` } : {}) };
  const { part } = shown;
  // A part turns about the middle of the whole.
  const [x, y] = [part.left * width, part.top * height];
  const partStyle = {
    ...style,
    left: left + x,
    top: top + y,
    width: (part.right - part.left) * width,
    height: (part.bottom - part.top) * height,
    ...(turn ? { transformOrigin: `${width / 2 - x}px ${height / 2 - y}px` } : {}),
  };
  return (
    <div className="picture-side" style={cut ? { clipPath: halfPlane(cut) } : undefined}>
      <div className="see-through" style={style} />
      <img ref={image} className={exact ? "exact" : undefined} src={shown.url} alt="The piece" style={partStyle} draggable={false} />
    </div>
  );
}
