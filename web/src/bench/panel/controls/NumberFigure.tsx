import type { InputNumberProps } from "antd";
import type { Setting } from "../../../api/client";
import { Figure } from "../../../shared/Figure";
import { round } from "../../model/geometry";
import type { useNumber } from "./useNumber";

type Slid = ReturnType<typeof useNumber>;

/** A number setting's figure, in the unit of the screen; bare of the unit where there is little room. */
export const figureOf = ({ value, low, high, step, times, places, after, type }: Slid, bare = false): InputNumberProps<number> => ({
  value: round(value * times, places),
  min: round(low * times, places),
  max: round(high * times, places),
  step: round(step * times, places) || 0.1,
  suffix: bare ? undefined : after || undefined,
  onChange: (next) => type(next === null ? null : Number(next)),
});

/** A number setting to be typed. */
export function NumberFigure({ setting, number, bare }: { setting: Setting; number: Slid; bare?: boolean }) {
  return <Figure aria-label={`${setting.label}, number`} {...figureOf(number, bare)} />;
}
