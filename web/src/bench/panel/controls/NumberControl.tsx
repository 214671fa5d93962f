import { Slider } from "antd";
import { useRef } from "react";
import { Figure } from "../../../shared/Figure";
import { clamp, round } from "../../model/geometry";
import { effective, shownAs } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

let slides = 0;

/** A number: slide, type or reset it. */
export function NumberControl(props: ControlProps) {
  const { kind, setting, settings, onChange, onDragging } = props;
  const { times, places, after } = shownAs(setting.unit);
  const value = Number(effective(kind, settings, setting.name) ?? 0);
  const low = setting.minimum ?? 0;
  const high = setting.maximum ?? 1;
  const step = setting.step ?? 0.01;
  const gesture = useRef<string | null>(null);
  const slide = (next: number) => {
    if (!gesture.current) {
      slides += 1;
      gesture.current = `slide-${slides}`;
      onDragging(true);
    }
    onChange(round(next, 5), gesture.current);
  };
  const done = () => {
    gesture.current = null;
    onDragging(false);
  };
  return (
    <div className="setting">
      <Name {...props} />
      <Slider
        min={low}
        max={high}
        step={step}
        value={value}
        onChange={slide}
        onChangeComplete={done}
        tooltip={{ open: false }}
        ariaLabelForHandle={setting.label}
      />
      <Figure
        aria-label={`${setting.label}, number`}
        value={round(value * times, places)}
        min={round(low * times, places)}
        max={round(high * times, places)}
        step={round(step * times, places) || 0.1}
        suffix={after || undefined}
        onChange={(next) => next !== null && onChange(round(clamp(Number(next) / times, low, high), 6), `type-${setting.name}`)}
      />
    </div>
  );
}
