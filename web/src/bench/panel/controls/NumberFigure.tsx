import type { Setting } from "../../../api/client";
import { Figure } from "../../../shared/Figure";
import { round } from "../../model/geometry";
import type { useNumber } from "./useNumber";

interface Props {
  setting: Setting;
  number: ReturnType<typeof useNumber>;
  /** Without its unit behind it, where there is little room. */
  bare?: boolean;
}

/** A number setting to be typed, in the unit of the screen. */
export function NumberFigure({ setting, number, bare = false }: Props) {
  const { value, low, high, step, times, places, after, type } = number;
  return (
    <Figure
      aria-label={`${setting.label}, number`}
      value={round(value * times, places)}
      min={round(low * times, places)}
      max={round(high * times, places)}
      step={round(step * times, places) || 0.1}
      suffix={bare ? undefined : after || undefined}
      onChange={(next) => type(next === null ? null : Number(next))}
    />
  );
}
