import { Tooltip } from "antd";
import type { SettingValue } from "../../model/piece";
import { isChanged } from "../../model/settings";
import type { ControlProps } from "./types";

/** The setting's name; shows its help, and a double click brings the default back. */
export function Name({ setting, settings, onChange }: ControlProps) {
  const changed = isChanged(setting, settings);
  return (
    <Tooltip title={`${setting.help}${changed ? " Double click for the default." : ""}`} placement="left" mouseEnterDelay={0.4}>
      <button
        type="button"
        className={`bare name ${changed ? "changed" : ""}`}
        onDoubleClick={() => onChange(setting.default as SettingValue)}
        aria-label={`${setting.label}: ${setting.help}`}
      >
        {setting.label}
      </button>
    </Tooltip>
  );
}
