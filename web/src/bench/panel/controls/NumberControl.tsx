import { Slider } from "antd";
import { Idle } from "./Idle";
import { Name } from "./Name";
import { NumberFigure } from "./NumberFigure";
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
        <Slider
          min={number.low}
          max={number.high}
          step={number.step}
          value={number.value}
          onChange={number.drag}
          onChangeComplete={number.done}
          tooltip={{ open: false }}
          ariaLabelForHandle={setting.label}
        />
        <NumberFigure setting={setting} number={number} />
      </div>
    </Idle>
  );
}
