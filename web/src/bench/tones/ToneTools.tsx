import { useDrag } from "@use-gesture/react";
import { Button } from "antd";
import { type KeyboardEvent, useRef } from "react";
import { clamp, round } from "../model/geometry";
import type { Settings } from "../model/piece";
import { effectiveNumber } from "../model/settings";
import { gammaFor, middleOf } from "../model/tones";
import type { ToolProps } from "../panel/kindTools";
import { useBench, useBenchPart } from "../store";
import { useTold } from "../useTold";
import { type Histogram, Tones } from "./Tones";

let drags = 0;
const STEP = 0.005;

/** How the tones are spread, with black, middle and white to be dragged under them. */
export function ToneTools({ step, kind }: ToolProps) {
  const told = useTold();
  const { clippedShown, edit, patch } = useBenchPart("clippedShown", "edit", "patch");
  const value = (name: string) => effectiveNumber(kind, step.settings, name);
  const [black, white, gamma] = [value("black"), value("white"), value("gamma")];
  const set = (settings: Settings, gesture?: string) =>
    edit({ type: "set", step: step.id, settings, ...(gesture ? { gesture: `${step.id}-${gesture}` } : {}) });
  const auto = told?.auto as Settings | undefined;
  const rows: { name: string; at: number; fill: string; move: (to: number) => Settings; reset: Settings }[] = [
    { name: "Black", at: black, fill: "var(--ink)", move: (to) => ({ black: round(clamp(to, 0, Math.min(0.9, white - 0.01))) }), reset: { black: 0 } },
    { name: "Middle", at: middleOf(black, white, gamma), fill: "var(--tan-dark)", move: (to) => ({ gamma: gammaFor(black, white, to) }), reset: { gamma: 1 } },
    { name: "White", at: white, fill: "var(--card)", move: (to) => ({ white: round(clamp(to, Math.max(0.1, black + 0.01), 1)) }), reset: { white: 1 } },
  ]; // biome-ignore format: one line each would be long
  return (
    <section aria-label="Histogram" className="tone-tools">
      <div className="tone-box">
        <svg viewBox="0 0 1 1" preserveAspectRatio="none" height={92} role="img" aria-label="How the tones of the picture are spread">
          <Tones histogram={told?.histogram as Histogram | undefined} />
          {rows.map(({ name, at }) => (
            <line key={name} x1={at} x2={at} y1={0} y2={1} className="tone-line" stroke="var(--coral)" vectorEffect="non-scaling-stroke" />
          ))}
        </svg>
      </div>
      <div className="tone-markers">
        {rows.map(({ name, at, fill, move, reset }) => (
          <Marker
            key={name}
            label={`${name}, on the histogram`}
            at={at}
            fill={fill}
            onMove={(to, gesture) => set(move(to), gesture)}
            onReset={() => set(reset)}
            onDragging={(dragging) => patch({ dragging })}
          />
        ))}
      </div>
      <div className="row">
        <Button
          size="small"
          disabled={!auto}
          title="Spreads the tones from black to white. You can change the values below."
          onClick={() => auto && set(auto)}
        >
          Auto
        </Button>
        <ClippedButton shown={clippedShown} />
      </div>
    </section>
  );
}

/** Held down, the picture shows where tones are lost. */
export function ClippedButton({ shown }: { shown: boolean }) {
  const { patch } = useBench.getState();
  const hold = (now: boolean) => patch({ clippedShown: now });
  return (
    <Button
      size="small"
      aria-pressed={shown}
      title="Hold, or hold the key K. Blue: a channel turns black. Red: a channel turns white."
      onPointerDown={() => hold(true)}
      onPointerUp={() => hold(false)}
      onPointerLeave={() => shown && hold(false)}
    >
      Clipped (hold)
    </Button>
  );
}

interface MarkerProps {
  label: string;
  at: number;
  fill: string;
  onMove: (to: number, gesture: string) => void;
  onReset: () => void;
  onDragging: (dragging: boolean) => void;
  onFocus?: () => void;
}

/** One marker under a histogram: dragged, nudged by keys, put back by a double click. */
export function Marker({ label, at, fill, onMove, onReset, onDragging, onFocus }: MarkerProps) {
  const begun = useRef({ at, width: 1, gesture: "" });
  const bind = useDrag(
    ({ first, last, movement: [mx], currentTarget }) => {
      if (first) {
        drags += 1;
        onFocus?.();
        const room = (currentTarget as HTMLElement).parentElement?.clientWidth ?? 1;
        begun.current = { at, width: room, gesture: `marker-${drags}` };
        onDragging(true);
      }
      if (mx !== 0) onMove(begun.current.at + mx / begun.current.width, begun.current.gesture);
      if (last) onDragging(false);
    },
    { pointer: { keys: false } },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const way = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    onMove(at + way * STEP * (event.shiftKey ? 10 : 1), `nudge-${label}`);
  };
  return (
    <button
      {...bind()}
      type="button"
      role="slider"
      className="tone-marker"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(at * 100)}
      style={{ left: `${100 * at}%` }}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
      onDoubleClick={onReset}
    >
      <svg viewBox="0 0 20 20" aria-hidden="true">
        <path d="M10 1.5 16 9v8.5H4V9Z" fill={fill} stroke="var(--ink)" strokeWidth={1.6} strokeLinejoin="round" />
      </svg>
    </button>
  );
}
