import type { Setting } from "../../../api/client";
import type { DrawnFor } from "../../model/edits";
import type { Settings, SettingValue } from "../../model/piece";
import type { Settable } from "../../model/settings";

/** What every control gets: the setting, all settings as they are, and how to change it. */
export interface ControlProps {
  kind: Settable;
  setting: Setting;
  settings: Settings;
  onChange: (value: SettingValue, gesture?: string, drawnFor?: DrawnFor) => void;
  onDragging: (dragging: boolean) => void;
}
