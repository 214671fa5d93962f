import { useRef, useState } from "react";
import { Figure } from "../../../shared/Figure";
import { SlidFigure } from "../../../shared/SlidFigure";
import { useCatalogue } from "../../../shared/useCatalogue";
import { type KnobValue, knobsIn, PLAIN_KNOB } from "../../model/formula";
import { clamp, round } from "../../model/geometry";
import { effective } from "../../model/settings";
import type { ControlProps } from "./types";
import "./KnobsControl.css";

const ENDS = { min: -1000, max: 1000, step: 0.1 };
let turns = 0;

function KnobRow({
  name,
  knob,
  onChange,
  onDragging,
}: {
  name: string;
  knob: KnobValue;
  onChange: (knob: KnobValue, gesture: string) => void;
  onDragging: (dragging: boolean) => void;
}) {
  const [rangeShown, setRangeShown] = useState(false);
  const gesture = useRef<string | null>(null);
  const slide = (value: number, keyed: boolean) => {
    if (!gesture.current) {
      turns += 1;
      gesture.current = keyed ? `nudge-${name}` : `knob-${turns}`;
      onDragging(true);
    }
    onChange({ ...knob, value: round(value, 5) }, gesture.current);
  };
  const setEnd = (end: "low" | "high", given: number | null) => {
    if (given === null) return;
    const next = { ...knob, [end]: given };
    if (next.low < next.high) onChange({ ...next, value: clamp(next.value, next.low, next.high) }, `range-${name}`);
  };
  const field = (label: string, value: number, set: (value: number | null) => void) => (
    <Figure
      aria-label={`${name}, ${label}`}
      value={round(value, 3)}
      {...ENDS}
      onChange={(given) => set(given === null ? null : Number(given))}
    />
  );
  return (
    <>
      <div className="setting">
        <button
          type="button"
          className="bare name word-knob"
          aria-expanded={rangeShown}
          title="Range"
          onClick={() => setRangeShown(!rangeShown)}
          onDoubleClick={() => onChange({ ...knob, value: clamp(1, knob.low, knob.high) }, "reset")}
        >
          {name}
        </button>
        <SlidFigure
          label={name}
          onSlide={slide}
          slide={{
            min: knob.low,
            max: knob.high,
            step: (knob.high - knob.low) / 400,
            value: knob.value,
            onChangeComplete: () => {
              gesture.current = null;
              onDragging(false);
            },
          }}
          figure={{
            ...ENDS,
            value: round(knob.value, 3),
            onChange: (value) => value !== null && onChange({ ...knob, value: Number(value) }, `type-${name}`),
          }}
        />
      </div>
      {rangeShown && (
        <div className="knob-range quiet small">
          from {field("from", knob.low, (value) => setEnd("low", value))} to {field("to", knob.high, (value) => setEnd("high", value))}
        </div>
      )}
    </>
  );
}

/** A slider for every name of the formula that is not one of the language's own. */
export function KnobsControl({ kind, setting, settings, onChange, onDragging }: ControlProps) {
  const { formula } = useCatalogue();
  const names = knobsIn([String(effective(kind, settings, "first")), String(effective(kind, settings, "second"))], formula);
  const knobs = (settings[setting.name] ?? {}) as Record<string, KnobValue>;
  if (!names.length) return <p className="quiet small">Write any other name in a formula to get a slider for it here.</p>;
  return (
    <fieldset className="knobs">
      <legend className="visually-hidden">Knobs</legend>
      {names.map((name) => (
        <KnobRow
          key={name}
          name={name}
          knob={knobs[name] ?? PLAIN_KNOB}
          onDragging={onDragging}
          onChange={(knob, gesture) => onChange({ ...knobs, [name]: knob }, gesture)}
        />
      ))}
    </fieldset>
  );
}
