import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { colourAt, seenUnder } from "../handles/seen";
import { fromScreen, type Placed, type Point } from "../model/geometry";
import { useBenchPart } from "../store";
import "./PickGround.css";

const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** Over the picture while a colour is taken from it: what is under the pointer is seen beside it; arrows and Enter do the same. */
export function PickGround({ box }: { box: Placed }) {
  const { pick, patch } = useBenchPart("pick", "patch");
  const ground = useRef<HTMLDivElement>(null);
  const [spot, setSpot] = useState<Point | null>(null);
  const [colour, setColour] = useState<string | null>(null);
  useEffect(() => ground.current?.focus({ preventScroll: true }), []);
  if (!pick) return null;
  const look = (at: Point): string | null => {
    const found = seenUnder(ground.current);
    const seen = found ? colourAt(found.image, found.seen, fromScreen(box, at)) : null;
    setSpot(at);
    setColour(seen);
    return seen;
  };
  const here = (event: PointerEvent): Point => {
    const bounds = ground.current?.getBoundingClientRect();
    return { x: event.clientX - (bounds?.left ?? 0), y: event.clientY - (bounds?.top ?? 0) };
  };
  const take = (found: string | null) => {
    if (!found) return;
    pick.take(found);
    patch({ pick: null });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const way = ARROWS[event.key];
    if (way) {
      const from = spot ?? { x: box.left + box.width / 2, y: box.top + box.height / 2 };
      const far = event.shiftKey ? 20 : 2;
      look({ x: from.x + way[0] * far, y: from.y + way[1] * far });
    } else if (event.key === "Enter") take(colour);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div
      ref={ground}
      className="pick-ground"
      role="application"
      // biome-ignore lint/a11y/noNoninteractiveTabindex: it takes arrows and Enter
      tabIndex={0}
      aria-label={`${pick.title}: click on the picture, or go there with the arrow keys and press Enter`}
      onPointerMove={(event) => look(here(event))}
      onPointerLeave={() => setColour(null)}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.preventDefault();
        event.stopPropagation();
        take(look(here(event)));
      }}
      onKeyDown={onKeyDown}
    >
      <p className="stage-note pick-note" role="status">
        <span>{pick.title}: press on the picture</span>
        <button
          type="button"
          className="bare link"
          onPointerDown={(event) => event.stopPropagation()}
          onClick={() => patch({ pick: null })}
        >
          Cancel
        </button>
      </p>
      {spot && colour && (
        <div className="pick-swatch" style={{ left: spot.x, top: spot.y }} data-colour={colour}>
          <i style={{ background: colour }} />
          <span>{colour}</span>
        </div>
      )}
    </div>
  );
}
