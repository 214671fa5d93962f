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

const BY_WIDGET: Partial<Record<Setting["widget"], ComponentType<ControlProps>>> = {
  choice: ChoiceControl,
  switch: SwitchControl,
  number: NumberControl,
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
export const isSpecial = (setting: Setting): boolean => !["number", "choice", "switch"].includes(setting.widget);

/** The control for one setting, chosen by what the catalogue says of it. */
export function SettingControl(props: ControlProps) {
  const Control = BY_WIDGET[props.setting.widget];
  return Control ? <Control {...props} /> : null;
}
