import { useDrag } from "@use-gesture/react";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { useLatest } from "../../shared/useLatest";
import { type Bar, barBox, drawnBar, edgedBar, movedBar } from "../model/bars";
import { fromScreen, type Placed, type Point, toFrame, unturned } from "../model/geometry";
import { layerOf } from "../model/piece";
import { useBenchPart } from "../store";
import { useBars } from "../useBars";
import { Knob } from "./Knob";
import type { HandleProps } from "./types";
import "./BarsHandle.css";

const NUDGE = 0.002;
const EDGES = ["left", "right", "top", "bottom"] as const;
let drags = 0;

interface BarProps {
  bar: Bar;
  index: number;
  placed: Placed;
  change: (bar: Bar, gesture: string) => void;
  remove: () => void;
  dragging: (dragging: boolean) => void;
}

/** One bar where it lies: pressed it is chosen, dragged it goes sideways (with Alt freely), a double click puts it back. */
function BarOnPicture({ bar, index, placed, change, remove, dragging }: BarProps) {
  const { bar: chosen, patch } = useBenchPart("bar", "patch");
  const begun = useRef(bar);
  const gesture = useRef("");
  const bind = useDrag(
    ({ first, last, movement: [mx, my], altKey, event }) => {
      event.stopPropagation();
      if (first) {
        begun.current = bar;
        drags += 1;
        gesture.current = `bar-${drags}`;
        patch({ bar: index });
        dragging(true);
      }
      if (mx || my) change(movedBar(begun.current, unturned(placed, { x: mx, y: my }), placed, altKey), gesture.current);
      if (last) dragging(false);
    },
    { pointer: { keys: false } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const far = NUDGE * (event.shiftKey ? 10 : 1);
    const ways: Record<string, Partial<Bar>> = {
      ArrowLeft: { shift: bar.shift - far },
      ArrowRight: { shift: bar.shift + far },
      ArrowUp: { drop: bar.drop - far },
      ArrowDown: { drop: bar.drop + far },
    };
    const way = ways[event.key];
    if (!way && event.key !== "Delete") return;
    event.preventDefault();
    event.stopPropagation();
    if (way) change({ ...bar, ...way }, `nudge-bar-${index}`);
    else remove();
  };
  const box = barBox(bar, placed);
  const is = chosen === index;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a bar on the picture cannot be a button element
    <g
      {...bind()}
      className={`bar-handle ${is ? "chosen" : ""} ${bar.locked ? "locked" : ""}`}
      role="button"
      tabIndex={0}
      aria-pressed={is}
      aria-label={`Bar ${index + 1}${bar.locked ? ", locked" : ""}`}
      onFocus={() => patch({ bar: index })}
      onKeyDown={onKeyDown}
      onDoubleClick={() => change({ ...bar, shift: 0, drop: 0, stretch: 1 }, "reset")}
    >
      <title>{`Bar ${index + 1}`}</title>
      {/* Thin bars are hard to hit: their grip is a little taller than they are. */}
      <rect x={box.x} y={box.y - 2} width={box.width} height={box.height + 4} fill="transparent" />
      <rect className="bar-back" x={box.x} y={box.y} width={box.width} height={box.height} />
      <rect className="bar-edge" x={box.x} y={box.y} width={box.width} height={box.height} />
    </g>
  );
}

/** Knobs in the middle of a bar's edges. */
function EdgeKnobs({ bar, index, placed, change, dragging }: Omit<BarProps, "remove">) {
  const box = barBox(bar, placed);
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  const shown = (p: Point): Point => ({
    x: Math.min(placed.left + placed.width, Math.max(placed.left, p.x)),
    y: p.y,
  });
  const at: Record<(typeof EDGES)[number], Point> = {
    left: shown({ x: box.x, y: middle.y }),
    right: shown({ x: box.x + box.width, y: middle.y }),
    top: { x: shown(middle).x, y: box.y - 12 },
    bottom: { x: shown(middle).x, y: box.y + box.height + 12 },
  };
  const begun = useRef<{ gesture: string; bar: Bar; at: Point }>({ gesture: "", bar, at: { x: 0, y: 0 } });
  const unit = Math.min(placed.width, placed.height) / 2;
  return (
    <>
      {EDGES.map((edge) => {
        const spot = toFrame(placed, at[edge]);
        return (
          <Knob
            key={edge}
            label={`Bar ${index + 1}, ${edge} edge`}
            placed={placed}
            at={spot}
            onMove={({ to, gesture }) => {
              if (begun.current.gesture !== gesture) begun.current = { gesture, bar, at: spot };
              const way = { x: (to.x - begun.current.at.x) * unit, y: (to.y - begun.current.at.y) * unit };
              change(edgedBar(begun.current.bar, edge, way, placed), gesture);
            }}
            onDragging={dragging}
          />
        );
      })}
    </>
  );
}

/** The room in which a new bar is drawn. */
function DrawBar({ placed, onDrawn }: { placed: Placed; onDrawn: (bar: Bar) => void }) {
  const ref = useRef<SVGRectElement>(null);
  const [corners, setCorners] = useState<[Point, Point] | null>(null);
  const at = (x: number, y: number): Point => {
    const stage = ref.current?.ownerSVGElement?.getBoundingClientRect();
    return fromScreen(placed, { x: x - (stage?.left ?? 0), y: y - (stage?.top ?? 0) });
  };
  const bind = useDrag(
    ({ first, last, xy: [x, y], event }) => {
      event.stopPropagation();
      const here = at(x, y);
      const now: [Point, Point] = first || !corners ? [here, here] : [corners[0], here];
      setCorners(last ? null : now);
      const bar = last ? drawnBar(now[0], now[1], placed) : null;
      if (bar) onDrawn(bar);
    },
    { pointer: { keys: false } },
  );
  const [a, b] = corners ?? [];
  return (
    <>
      <rect
        ref={ref}
        {...bind()}
        aria-label="Draw a bar here"
        className="drawing"
        x={placed.left}
        y={placed.top}
        width={placed.width}
        height={placed.height}
        fill="transparent"
      />
      {a && b && (
        <rect
          x={Math.min(a.x, b.x)}
          y={Math.min(a.y, b.y)}
          width={Math.abs(a.x - b.x)}
          height={Math.abs(a.y - b.y)}
          fill="var(--coral-fill)"
          stroke="var(--trace)"
          strokeWidth={2}
        />
      )}
    </>
  );
}

/** The bars of a slices step, each to be moved by itself. The first touch writes all of them into the step. */
export function BarsHandle({ placed, set, dragging }: HandleProps) {
  const { history, layer, selected, bar: chosen, tool, patch } = useBenchPart("history", "layer", "selected", "bar", "tool", "patch");
  const step = layerOf(history.present.document, layer).steps.find((one) => one.id === selected);
  const { bars, drawnFor } = useBars(history.present.document, step);
  const write = (next: Bar[], gesture: string) => set({ bars: next }, gesture, drawnFor);
  // What is drawn before the others are known is put to them as soon as they are.
  const [waiting, setWaiting] = useState<Bar | null>(null);
  const isKnown = bars !== undefined && drawnFor !== null;
  const add = (bar: Bar) => {
    if (!bars || !isKnown) return setWaiting(bar);
    setWaiting(null);
    write([...bars, bar], "draw");
    patch({ bar: bars.length });
  };
  const addWaiting = useLatest(() => waiting && add(waiting));
  useEffect(() => {
    if (isKnown) addWaiting();
  }, [isKnown, addWaiting]);
  const drawing = tool === "bar" && <DrawBar placed={placed} onDrawn={add} />;
  if (!bars) return drawing || null;
  const change = (index: number) => (bar: Bar, gesture: string) =>
    write(
      bars.map((one, n) => (n === index ? bar : one)),
      gesture,
    );
  const remove = (index: number) => () => {
    write(
      bars.filter((_, n) => n !== index),
      "delete",
    );
    patch({ bar: null });
  };
  const own = chosen === null ? undefined : bars[chosen];
  return (
    <g>
      {bars.map((bar, index) => (
        <BarOnPicture
          // biome-ignore lint/suspicious/noArrayIndexKey: a bar is known by its order alone
          key={index}
          {...{ bar, index, placed, dragging }}
          change={change(index)}
          remove={remove(index)}
        />
      ))}
      {chosen !== null && own && tool !== "bar" && (
        <EdgeKnobs bar={own} index={chosen} placed={placed} change={change(chosen)} dragging={dragging} />
      )}
      {drawing}
    </g>
  );
}
