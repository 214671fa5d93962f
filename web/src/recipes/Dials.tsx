import type { Dial } from "../api/client";
import { SlidFigure } from "../shared/SlidFigure";

interface Props {
  dials: Dial[];
  values: Record<string, number>;
  onChange: (values: Record<string, number>) => void;
}

const stepOf = (dial: Dial) => (dial.high - dial.low > 12 ? 1 : (dial.high - dial.low) / 200);

/** What a recipe leaves open, to be turned. */
export function Dials({ dials, values, onChange }: Props) {
  return (
    <div>
      {dials.map((dial) => {
        const value = values[dial.name] ?? dial.value;
        const turn = (to: number) => onChange({ ...values, [dial.name]: Math.min(dial.high, Math.max(dial.low, to)) });
        return (
          <div className="setting" key={dial.name}>
            <span className={`name clip ${value === dial.value ? "" : "changed"}`} title={dial.name}>
              {dial.name}
            </span>
            <SlidFigure
              label={dial.name}
              onSlide={turn}
              slide={{ min: dial.low, max: dial.high, step: stepOf(dial), value }}
              figure={{
                min: dial.low,
                max: dial.high,
                precision: stepOf(dial) >= 1 ? 0 : 3,
                value,
                onChange: (typed) => typed !== null && turn(typed),
              }}
            />
          </div>
        );
      })}
    </div>
  );
}
