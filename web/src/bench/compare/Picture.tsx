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

/** A look on the stage, turned as the view is, perhaps only on one side of the split line. */
export function Picture({ shown, box, cut }: { shown: Shown; box: Placed; cut: Cut | null }) {
  const { left, top, width, height, turn = 0 } = box;
  const style = { left, top, width, height, ...(turn ? { transform: `rotate(${turn}turn)` } : {}) };
  return (
    <div className="picture-side" style={cut ? { clipPath: halfPlane(cut) } : undefined}>
      <div className="see-through" style={style} />
      <img src={shown.url} alt="The piece" style={style} draggable={false} />
    </div>
  );
}
