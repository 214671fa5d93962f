import { memo } from "react";
import type { Kind, Setting } from "../../api/client";
import type { Settings, SettingValue } from "../model/piece";
import { effective } from "../model/settings";
import { isSpecial, SettingControl } from "./SettingControl";

interface Props {
  kind: Kind;
  setting: Setting;
  settings: Settings;
  onSet: (name: string, value: SettingValue, gesture?: string) => void;
  onDragging: (name: string, dragging: boolean) => void;
}

/** One setting of a step. While another is dragged it is not drawn again: a panel of a dozen takes longer than the draft of the picture. */
export const StepSetting = memo(function StepSetting({ kind, setting, settings, onSet, onDragging }: Props) {
  return (
    <SettingControl
      kind={kind}
      setting={setting}
      settings={settings}
      onChange={(value, gesture) => onSet(setting.name, value, gesture)}
      onDragging={(dragging) => onDragging(setting.name, dragging)}
    />
  );
}, looksAlike);

function looksAlike(a: Props, b: Props): boolean {
  if (a.kind !== b.kind || a.setting !== b.setting || a.onSet !== b.onSet || a.onDragging !== b.onDragging) return false;
  if (a.settings === b.settings) return true;
  const { name } = a.setting;
  // What is more than a number or a word may look at all settings.
  if (isSpecial(a.setting)) return false;
  return a.settings[name] === b.settings[name] && effective(a.kind, a.settings, name) === effective(b.kind, b.settings, name);
}
