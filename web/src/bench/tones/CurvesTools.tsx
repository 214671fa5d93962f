import { useDrag } from "@use-gesture/react";
import { Button, Segmented } from "antd";
import { type KeyboardEvent, useRef, useState } from "react";
import { Figure } from "../../shared/Figure";
import { usePick } from "../colours/usePick";
import { curveThrough } from "../model/curves";
import { clamp } from "../model/geometry";
import {
  CURVES,
  type CurveName,
  isStraight,
  movedPoint,
  partsOf,
  STRAIGHT,
  type ToneCurve,
  widestGap,
  withoutPoint,
  withPoint,
} from "../model/tones";
import type { ToolProps } from "../panel/kindTools";
import { useBenchPart } from "../store";
import { useTold } from "../useTold";
import { type Histogram, Tones } from "./Tones";
import { ClippedButton } from "./ToneTools";

let drags = 0;
const STEP = 0.005;
const SAMPLES = 96;
const LABELS: Record<CurveName, string> = { all: "All", red: "Red", green: "Green", blue: "Blue", light: "Light" };
const COLOURS: Record<CurveName, string> = {
  all: "var(--ink)", red: "var(--plate-red)", green: "var(--moss)", blue: "var(--plate-blue)", light: "var(--quiet)",
}; // biome-ignore format: one line
/** A point dragged so far out of the square is taken away. */
const OUT = 0.12;

/** The curves over the histogram: press to add a point, drag it, drag it out to take it away. */
export function CurvesTools({ step }: ToolProps) {
  const told = useTold();
  const { clippedShown, edit, patch } = useBenchPart("clippedShown", "edit", "patch");
  const [name, setName] = useState<CurveName>("all");
  const [chosen, setChosen] = useState<number | null>(null);
  const box = useRef<HTMLDivElement>(null);
  const drag = useRef({ gesture: "", curve: STRAIGHT, n: 0 });
  const curveOf = (one: CurveName) => (step.settings[one] as ToneCurve | undefined) ?? STRAIGHT;
  const curve = curveOf(name);
  const write = (next: ToneCurve, gesture?: string) =>
    edit({ type: "set", step: step.id, settings: { [name]: next }, ...(gesture ? { gesture: `${step.id}-${gesture}` } : {}) });
  const spotOf = (x: number, y: number): [number, number] => {
    const bounds = box.current?.getBoundingClientRect() ?? new DOMRect(0, 0, 1, 1);
    return [(x - bounds.left) / bounds.width, 1 - (y - bounds.top) / bounds.height];
  };
  const put = (old: number, value: number, gesture: string) => {
    const made = withPoint(curve, clamp(old, 0, 1), value);
    if (!made) return null;
    if (made.curve !== curve) write(made.curve, gesture);
    setChosen(made.n);
    return made;
  };
  const bind = useDrag(
    ({ first, last, xy: [x, y], args: [held], event }) => {
      event.stopPropagation();
      const [old, value] = spotOf(x, y);
      if (first) {
        drags += 1;
        const gesture = `curve-${drags}`;
        const made = held === undefined ? put(old, curveThrough(curve, true)(clamp(old, 0, 1)), gesture) : { curve, n: held as number };
        drag.current = made ? { gesture, ...made } : { gesture: "", curve, n: 0 };
        setChosen(made?.n ?? null);
        patch({ dragging: true });
        return;
      }
      const { gesture, curve: from, n } = drag.current;
      const inner = n > 0 && n < from.length - 1;
      const out = inner && (value > 1 + OUT || value < -OUT || old > 1 + OUT || old < -OUT);
      if (gesture) write(out ? withoutPoint(from, n) : movedPoint(from, n, old, value), gesture);
      if (last) {
        if (out) setChosen(null);
        patch({ dragging: false });
      }
    },
    { pointer: { keys: false }, filterTaps: false },
  );
  const remove = (n: number) => {
    write(withoutPoint(curve, n));
    setChosen(null);
  };
  const onKey = (n: number) => (event: KeyboardEvent) => {
    const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key] ?? [0, 0];
    if (dx || dy) {
      const far = STEP * (event.shiftKey ? 10 : 1);
      const [old = 0, value = 0] = curve[n] ?? [];
      write(movedPoint(curve, n, old + (dx ?? 0) * far, value + (dy ?? 0) * far), `nudge-${n}`);
    } else if (event.key === "Delete" || event.key === "Backspace") remove(n);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const [picking, pick] = usePick(`A tone for the curve ${LABELS[name].toLowerCase()}`, "before", (colour) => {
    const old = partsOf(colour)[name];
    put(old, curveThrough(curve, true)(old), `pick-${Date.now()}`);
  });
  const own = chosen === null ? undefined : curve[chosen];
  return (
    <section aria-label="Curves" className="curves tone-tools">
      <Segmented
        block
        size="small"
        className="curve-tabs"
        aria-label="Curve"
        value={name}
        options={CURVES.map((one) => ({
          value: one,
          label: <span className={isStraight(curveOf(one)) ? "" : "curve-set"}>{LABELS[one]}</span>,
        }))}
        onChange={(next) => {
          setName(next as CurveName);
          setChosen(null);
        }}
      />
      <div ref={box} className="tone-box curve-box" {...bind()} data-curve={name}>
        <svg
          viewBox="0 0 1 1"
          preserveAspectRatio="none"
          role="img"
          aria-label={`The curve ${LABELS[name].toLowerCase()} over the histogram`}
        >
          <Tones histogram={told?.histogram as Histogram | undefined} {...(name === "all" ? {} : { only: name })} />
          {[0.25, 0.5, 0.75].map((at) => (
            <path
              key={at}
              d={`M${at} 0V1M0 ${at}H1`}
              className="tone-grid"
              stroke="var(--line)"
              fill="none"
              vectorEffect="non-scaling-stroke"
            />
          ))}
          <path d="M0 1L1 0" stroke="var(--line)" fill="none" vectorEffect="non-scaling-stroke" strokeDasharray="3 4" />
          {CURVES.filter((one) => one !== name && !isStraight(curveOf(one))).map((one) => (
            <path key={one} d={pathOf(curveOf(one))} fill="none" stroke={COLOURS[one]} opacity={0.35} vectorEffect="non-scaling-stroke" />
          ))}
          <path d={pathOf(curve)} fill="none" stroke={COLOURS[name]} strokeWidth={2} vectorEffect="non-scaling-stroke" />
        </svg>
        {curve.map(([old = 0, value = 0], n) => (
          <button
            {...bind(n)}
            // biome-ignore lint/suspicious/noArrayIndexKey: a point has no name but its number
            key={n}
            type="button"
            className={`curve-point ${n === chosen ? "chosen" : ""}`}
            aria-label={`Point ${n + 1} of ${LABELS[name]}, ${Math.round(100 * old)} to ${Math.round(100 * value)}`}
            aria-pressed={n === chosen}
            style={{ left: `${100 * old}%`, top: `${100 - 100 * value}%` }}
            onFocus={() => setChosen(n)}
            onKeyDown={onKey(n)}
            onDoubleClick={() => remove(n)}
          />
        ))}
      </div>
      <div className="row">
        {own && chosen !== null ? (
          <>
            {(["In", "Out"] as const).map((label, k) => (
              <span key={label} className="row tone-number">
                <span className="quiet small">{label}</span>
                <Figure
                  aria-label={`${label} value of point ${chosen + 1}`}
                  value={Math.round(1000 * (own[k] ?? 0)) / 10}
                  min={0}
                  max={100}
                  step={0.5}
                  onChange={(next) => {
                    if (next === null) return;
                    const [old = 0, value = 0] = own;
                    const to = Number(next) / 100;
                    write(k === 0 ? movedPoint(curve, chosen, to, value) : movedPoint(curve, chosen, old, to), `type-${chosen}-${k}`);
                  }}
                />
              </span>
            ))}
            <Button size="small" disabled={curve.length <= 2} onClick={() => remove(chosen)}>
              Remove
            </Button>
          </>
        ) : (
          <>
            <Button size="small" onClick={() => put(widestGap(curve), curveThrough(curve, true)(widestGap(curve)), `add-${curve.length}`)}>
              Add a point
            </Button>
            <Button size="small" disabled={isStraight(curve)} onClick={() => write(STRAIGHT)}>
              Reset
            </Button>
          </>
        )}
      </div>
      <div className="row">
        <Button size="small" title="Click on the picture to add a point for the tone there." aria-pressed={picking} onClick={pick}>
          Point from picture
        </Button>
        <ClippedButton shown={clippedShown} />
      </div>
    </section>
  );
}

function pathOf(curve: ToneCurve): string {
  const value = curveThrough(curve, true);
  return Array.from({ length: SAMPLES + 1 }, (_, n) => {
    const at = n / SAMPLES;
    return `${n ? "L" : "M"}${at.toFixed(4)} ${(1 - value(at)).toFixed(4)}`;
  }).join("");
}
