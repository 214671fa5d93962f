import { type RefObject, useEffect, useLayoutEffect, useRef } from "react";
import { type Placed, perUnit } from "../model/geometry";
import type { Turning } from "../model/turning";
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

/** Turn a picture on the stage about a point; what it leaves bare shows it as it was, and nothing shows beside its box. */
function turnImage(image: HTMLImageElement, box: Placed, turning: Turning | null): void {
  const side = image.parentElement;
  const under = side?.querySelector<HTMLImageElement>("img.under");
  if (!side || box.turn || !turning || !turning.turns) {
    if (under) {
      under.remove();
      image.style.removeProperty("rotate");
      image.style.removeProperty("box-shadow");
      image.style.transformOrigin = "";
      if (side) side.style.clipPath = "";
    }
    return;
  }
  const still = under ?? document.createElement("img");
  if (!under) {
    still.className = "under";
    still.alt = "";
    still.style.cssText = image.style.cssText;
    image.style.boxShadow = "none";
    image.before(still);
    const { offsetWidth, offsetHeight } = side;
    const [right, bottom] = [offsetWidth - box.left - box.width, offsetHeight - box.top - box.height];
    side.style.clipPath = `inset(${box.top}px ${right}px ${bottom}px ${box.left}px)`;
  }
  if (still.src !== image.src) still.src = image.src;
  const [x, y] = [box.left + box.width / 2 + turning.x * perUnit(box), box.top + box.height / 2 + turning.y * perUnit(box)];
  image.style.transformOrigin = `${x - image.offsetLeft}px ${y - image.offsetTop}px`;
  image.style.rotate = `${turning.turns}turn`;
}

/** What can be done with a picture at once, without a render. */
export interface Hand {
  /** Paint another in its place; false where it cannot. */
  paint: (shown: Shown) => boolean;
  /** Turn it as it is until the next is painted; null as it was made. */
  turn: (turning: Turning | null) => void;
}

interface Props {
  shown: Shown;
  box: Placed;
  cut: Cut | null;
  /** Whether its own pixels are to be seen, not a blend of them. */
  exact?: boolean;
  /** Where the ways to change it at once are left. */
  hand?: RefObject<Hand | null>;
}

/** A look on the stage, turned as the view is, perhaps only on one side of the split line. */
export function Picture({ shown, box, cut, hand, exact }: Props) {
  const image = useRef<HTMLImageElement>(null);
  const lies = useRef(box);
  useLayoutEffect(() => {
    lies.current = box;
  });
  useEffect(() => {
    if (!hand) return;
    // React knows nothing of drafts under the hand: the next picture it is told of comes when the hand rests.
    hand.current = {
      paint: (next) => {
        if (!image.current) return false;
        image.current.src = next.url;
        return true;
      },
      turn: (turning) => image.current && turnImage(image.current, lies.current, turning),
    };
    return () => {
      hand.current = null;
    };
  }, [hand]);
  // Whatever is drawn by a render lies as it was made.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is the picture that says so
  useEffect(() => {
    if (hand) hand.current?.turn(null);
  }, [hand, shown]);
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
