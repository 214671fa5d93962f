import { useDrag } from "@use-gesture/react";
import { useRef } from "react";
import { clamp, fromScreen, type Point, round, toFrame, toStage } from "../model/geometry";
import { edgeLine, type JoinLine, type Pull, rayLine } from "../model/seam";
import { effectiveNumber } from "../model/settings";
import { useBench } from "../store";
import { useTold } from "../useTold";
import { Knob } from "./Knob";
import type { HandleProps } from "./types";

const EVEN = Array.from({ length: 33 }, (_, n) => n / 32);
let drags = 0;

/** How far from the join anything changes, the cut as it runs, and the places it is pulled to. */
export function SeamBandHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const joinShown = useBench((state) => state.joinShown);
  const told = useTold();
  const group = useRef<SVGGElement>(null);
  const gesture = useRef("");
  const pullsBefore = useRef<Pull[]>([]);
  const width = effectiveNumber(kind, settings, "width");
  const ray = settings.along === "ray";
  const inMiddle = ray || joinShown;
  const line = ray ? rayLine(placed, settings, width) : edgeLine(placed, width, joinShown);
  const path = told?.way === "cut" ? (told.path as number[]) : [];
  const pulls = (settings.pulls ?? []) as Pull[];
  const drawn = (at: (v: number, n: number) => number, of: JoinLine = line) =>
    EVEN.map((v, n) => {
      const { x, y } = toStage(placed, of.point(v, at(v, n)));
      return `${n ? "L" : "M"}${x.toFixed(1)} ${y.toFixed(1)}`;
    }).join("");
  const cut = drawn((_, n) => path[Math.min(n, path.length - 1)] ?? 0);
  const pulledTo = (to: Point): Pull => {
    const { v, at } = line.place(to);
    return [round(clamp(v, 0, 1)), round(clamp(at, -1, 1))];
  };
  // Taking hold of the cut itself makes a new place that it is pulled to.
  const bind = useDrag(
    ({ first, last, movement: [mx, my], xy: [x, y], event }) => {
      event.stopPropagation();
      if (first) {
        drags += 1;
        gesture.current = `pull-${drags}`;
        pullsBefore.current = pulls;
        dragging(true);
      }
      const box = group.current?.ownerSVGElement?.getBoundingClientRect();
      const at = toFrame(placed, fromScreen(placed, { x: x - (box?.left ?? 0), y: y - (box?.top ?? 0) }));
      if (mx || my) set({ pulls: [...pullsBefore.current, pulledTo(at)] }, gesture.current);
      if (last) dragging(false);
    },
    { pointer: { keys: false } },
  );
  const edges = inMiddle ? [-1, 1] : [1];
  const far = { left: edgeLine(placed, width, false), right: edgeLine(placed, width, false) };
  return (
    <g ref={group}>
      {edges.map((side) => (
        <Band key={side} d={drawn(() => side)} />
      ))}
      {!inMiddle && <Band d={drawn(() => 1 / width - 1, far.right)} />}
      {path.length > 0 && inMiddle && (
        <g {...bind()} className="knob seam-cut">
          <path d={cut} fill="none" stroke="var(--trace-edge)" strokeWidth={4} />
          <path d={cut} fill="none" stroke="var(--coral-bright)" strokeWidth={2} />
          <path d={cut} fill="none" stroke="transparent" strokeWidth={18} pointerEvents="stroke" />
        </g>
      )}
      {inMiddle &&
        pulls.map(([v, at], n) => (
          <Knob
            // biome-ignore lint/suspicious/noArrayIndexKey: a place has no name but its number
            key={n}
            label={`Cut, pulled ${n + 1}`}
            placed={placed}
            at={line.point(v, at)}
            onMove={({ to, gesture: one }) => set({ pulls: pulls.map((pull, k) => (k === n ? pulledTo(to) : pull)) }, one)}
            onReset={() => set({ pulls: pulls.filter((_, k) => k !== n) }, "reset")}
            onDragging={dragging}
          />
        ))}
      {(inMiddle ? [-1, 1] : [1, -1]).map((side) => (
        <Knob
          key={side}
          label={`Width, ${(side < 0) === inMiddle ? "left" : "right"}`}
          grid
          placed={placed}
          at={inMiddle || side > 0 ? line.point(0.5, side) : far.right.point(0.5, 1 / width - 1)}
          look="coral"
          onMove={({ to, gesture: one }) => {
            const away = Math.abs(line.place(to).at) * width;
            set({ width: round(clamp(inMiddle || side > 0 ? away : 1 - away, 0.002, 0.5)) }, one);
          }}
          onReset={() => set({ width: 0.08 }, "reset")}
          onDragging={dragging}
        />
      ))}
    </g>
  );
}

/** Where the band ends that is changed. */
function Band({ d }: { d: string }) {
  return (
    <g pointerEvents="none">
      <path d={d} fill="none" stroke="var(--trace-edge)" strokeWidth={4} />
      <path d={d} fill="none" stroke="var(--trace)" strokeWidth={2} strokeDasharray="6 5" />
    </g>
  );
}
