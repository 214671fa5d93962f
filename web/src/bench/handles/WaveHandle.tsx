import { clamp, type Point, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { type WaveSettings, waveAt } from "../model/waves";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const ARM = 0.6;
const SNAP = 1 / 24;
const LEAST = 0.06;

/** A crest of the waves about the middle, with their heading, length and height to drag. */
export function WaveHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const value = (name: string) => effectiveNumber(kind, settings, name);
  const heading = value("heading");
  const length = value("length");
  const height = value("height");
  const waves: WaveSettings = {
    length,
    height,
    number: value("number"),
    variety: value("variety"),
    phase: value("phase"),
    seed: value("seed"),
    form: String(effective(kind, settings, "form")),
  };
  const d = polar({ x: 0, y: 0 }, heading, 1);
  const n = { x: -d.y, y: d.x };
  const along = (across: number, push: number): Point => ({ x: n.x * across + d.x * push, y: n.y * across + d.y * push });
  // A crest or two about the middle tell length and height; more would be a fence over the picture.
  const reach = Math.min(Math.max(1.5 * length, LEAST), Math.hypot(placed.width, placed.height) / 2 / perUnit(placed));
  const count = 120;
  const trace = Array.from({ length: count + 1 }, (_, k) => {
    const across = (k / count - 0.5) * 2 * reach;
    const p = toStage(placed, along(across, waveAt(waves, across)));
    return `${k ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
  }).join("");
  const shownLength = Math.max(length, LEAST);
  const shownHeight = Math.max(height, LEAST);
  const dot = (a: Point, b: Point) => a.x * b.x + a.y * b.y;
  const shared = { placed, onDragging: dragging };
  return (
    <g>
      <clipPath id="wave-ground">
        <rect x={placed.left} y={placed.top} width={placed.width} height={placed.height} />
      </clipPath>
      <g clipPath="url(#wave-ground)" pointerEvents="none">
        <path d={trace} fill="none" stroke="var(--trace-edge)" strokeWidth={4.5} />
        <path d={trace} fill="none" stroke="var(--trace)" strokeWidth={2} />
      </g>
      <Stroke from={toStage(placed, { x: 0, y: 0 })} to={toStage(placed, along(0, ARM))} colour="var(--coral)" />
      <Stroke from={toStage(placed, along(0, -shownHeight))} to={toStage(placed, along(shownLength, -shownHeight))} dash="4 4" />
      <Knob
        {...shared}
        label="Direction"
        look="coral"
        at={along(0, ARM)}
        onMove={({ to, snap, gesture }) => set({ heading: round(snap ? Math.round(turnsOf(to) / SNAP) * SNAP : turnsOf(to)) }, gesture)}
        onReset={() => set({ heading: 0 }, "reset")}
      />
      <Knob
        {...shared}
        label="Length"
        grid
        at={along(shownLength, -shownHeight)}
        onMove={({ to, gesture }) => set({ length: round(clamp(Math.abs(dot(to, n)), 0.005, 6)) }, gesture)}
        onReset={() => set({ length: 0.5 }, "reset")}
      />
      <Knob
        {...shared}
        label="Height"
        grid
        at={along(0, -shownHeight)}
        onMove={({ to, gesture }) => set({ height: round(clamp(-dot(to, d), 0, 2)) }, gesture)}
        onReset={() => set({ height: 0.06 }, "reset")}
      />
    </g>
  );
}
