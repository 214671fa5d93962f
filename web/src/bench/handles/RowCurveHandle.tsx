import type { MouseEvent } from "react";
import { curveThrough } from "../model/curves";
import { clamp, fromScreen, type Point, perUnit, round, toFrame, toStage } from "../model/geometry";
import { effective, effectiveNumber } from "../model/settings";
import { Knob } from "./Knob";
import type { HandleProps } from "./types";

const MOST = 64;
const PARTS = 160;
/** Places where the curve is drawn: near enough to look round, and to show steep parts of straight ones. */
const ALONG = Array.from({ length: PARTS + 1 }, (_, n) => n / PARTS);

/** Points in order of their place. */
const inOrder = (points: number[][]): number[][] => [...points].sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0));

/**
 * The curve beside the middle of the picture: drag its points, double click the curve to add one, double click a point to take it away.
 */
export function RowCurveHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const points = inOrder(effective(kind, settings, "curve") as number[][]);
  const columns = effective(kind, settings, "lines") === "columns";
  const amount = effectiveNumber(kind, settings, "amount") || 1;
  const half = { x: placed.width / 2 / perUnit(placed), y: placed.height / 2 / perUnit(placed) };
  const toPoint = ([place = 0, shift = 0]: number[]): Point =>
    columns ? { x: (2 * place - 1) * half.x, y: shift * amount } : { x: shift * amount, y: (2 * place - 1) * half.y };
  const toPair = (p: Point): number[] => {
    const place = columns ? (p.x / half.x + 1) / 2 : (p.y / half.y + 1) / 2;
    return [round(clamp(place, 0, 1)), round(clamp((columns ? p.y : p.x) / amount, -2, 2))];
  };
  const curve = curveThrough(points, effective(kind, settings, "smooth") !== false);
  const path = ALONG.map((place, k) => `${k ? "L" : "M"}${Object.values(toStage(placed, toPoint([place, curve(place)]))).join(" ")}`).join(
    "",
  );
  const add = (event: MouseEvent<SVGPathElement>) => {
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    if (!box || points.length >= MOST) return;
    const at = toFrame(placed, fromScreen(placed, { x: event.clientX - box.left, y: event.clientY - box.top }));
    set({ curve: inOrder([...points, toPair(at)]) }, `add-${points.length}`);
  };
  const addInWidestGap = () => {
    const gaps = points.slice(1).map((pair, k) => (pair[0] ?? 0) - (points[k]?.[0] ?? 0));
    const k = gaps.indexOf(Math.max(...gaps));
    const [a, b] = [points[k], points[k + 1]];
    if (!a || !b || points.length >= MOST) return;
    const middle = [0, 1].map((n) => round(((a[n] ?? 0) + (b[n] ?? 0)) / 2));
    set({ curve: inOrder([...points, middle]) }, `add-${points.length}`);
  };
  return (
    <g>
      <path d={path} fill="none" stroke="var(--trace-edge)" strokeWidth={4.5} pointerEvents="none" />
      <path d={path} fill="none" stroke="var(--coral)" strokeWidth={2.2} pointerEvents="none" />
      {/* biome-ignore lint/a11y/useSemanticElements: a curve in a picture cannot be a button element */}
      <path
        d={path}
        fill="none"
        stroke="transparent"
        strokeWidth={18}
        className="knob"
        role="button"
        tabIndex={0}
        aria-label="Row curve: double click or Enter adds a point"
        onDoubleClick={add}
        onKeyDown={(event) => event.key === "Enter" && addInWidestGap()}
      >
        <title>Row curve: double click adds a point</title>
      </path>
      {points.map((pair, k) => (
        <Knob
          // biome-ignore lint/suspicious/noArrayIndexKey: a point is known by its order alone
          key={k}
          label={`Curve point ${k + 1}`}
          grid
          placed={placed}
          at={toPoint(pair)}
          onMove={({ to, gesture }) => {
            const [place = 0, shift = 0] = toPair(to);
            const low = (points[k - 1]?.[0] ?? -1) + 0.002;
            const high = (points[k + 1]?.[0] ?? 2) - 0.002;
            set(
              { curve: points.map((old, n) => (n === k ? [round(clamp(place, Math.max(0, low), Math.min(1, high))), shift] : old)) },
              gesture,
            );
          }}
          onReset={() => points.length > 1 && set({ curve: points.filter((_, n) => n !== k) }, `remove-${k}`)}
          onDragging={dragging}
        />
      ))}
    </g>
  );
}
