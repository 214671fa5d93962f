import { SlidFigure } from "../../../shared/SlidFigure";
import { Idle } from "./Idle";
import { Name } from "./Name";
import { figureOf } from "./NumberFigure";
import type { ControlProps } from "./types";
import { useNumber } from "./useNumber";

/** A number: slide, type, scrub its name sideways, or reset it. */
export function NumberControl(props: ControlProps) {
  const { setting } = props;
  const number = useNumber(props);
  return (
    <Idle {...props}>
      <div className="setting">
        <Name {...props} scrub={number.scrub} />
        <SlidFigure
          label={setting.label}
          onSlide={number.drag}
          slide={{ min: number.low, max: number.high, step: number.step, value: number.value, onChangeComplete: number.done }}
          figure={figureOf(number)}
        />
      </div>
    </Idle>
  );
}
