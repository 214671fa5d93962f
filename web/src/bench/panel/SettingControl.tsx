import type { ComponentType } from "react";
import type { Setting } from "../../api/client";
import { BarsControl } from "./controls/BarsControl";
import { ChoiceControl, SwitchControl } from "./controls/ChoiceControl";
import { ColourControl } from "./controls/ColourControl";
import { ColoursControl } from "./controls/ColoursControl";
import { FormulaLine } from "./controls/FormulaLine";
import { KeysControl } from "./controls/KeysControl";
import { KnobsControl } from "./controls/KnobsControl";
import { LayerControl } from "./controls/LayerControl";
import { NumberControl } from "./controls/NumberControl";
import { PairsControl } from "./controls/PairsControl";
import { PhotoControl } from "./controls/PhotoControl";
import { SeedControl } from "./controls/SeedControl";
import { StopsControl } from "./controls/StopsControl";
import { TextControl } from "./controls/TextControl";
import type { ControlProps } from "./controls/types";

const BY_UNIT: Record<string, ComponentType<ControlProps>> = {
  seed: SeedControl,
  colour: ColourControl,
  colours: ColoursControl,
  formula: FormulaLine,
  knobs: KnobsControl,
  curve: PairsControl,
  corners: PairsControl,
  outline: PairsControl,
  pulls: PairsControl,
  stops: StopsControl,
  text: TextControl,
  bars: BarsControl,
  keys: KeysControl,
  photo: PhotoControl,
  layer: LayerControl,
};

/** Whether a setting is more than a number, a word or a switch. */
export const isSpecial = (setting: Setting): boolean => setting.unit in BY_UNIT;

/** The control for one setting, chosen by what the catalogue says of it. */
export function SettingControl(props: ControlProps) {
  const { setting } = props;
  const Special = BY_UNIT[setting.unit];
  if (Special) return <Special {...props} />;
  if (setting.type === "choice") return <ChoiceControl {...props} />;
  if (setting.type === "boolean") return <SwitchControl {...props} />;
  return <NumberControl {...props} />;
}
