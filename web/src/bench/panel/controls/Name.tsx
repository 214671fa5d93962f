import { Tooltip } from "antd";
import type { SettingValue } from "../../model/piece";
import { isChanged } from "../../model/settings";
import type { ControlProps } from "./types";
import type { useNumber } from "./useNumber";
import "./Name.css";

interface Props extends ControlProps {
  /** What makes it a number that is scrubbed sideways. */
  scrub?: ReturnType<typeof useNumber>["scrub"];
  /** What stands in place of the whole label. */
  short?: string;
}

/** The setting's name; shows its help, and a double click brings the default back. A number's name is dragged sideways to change it. */
export function Name({ setting, settings, onChange, scrub, short }: Props) {
  const changed = isChanged(setting, settings);
  const ways = `${scrub ? " Drag sideways to change it, with Shift finer." : ""}${changed ? " Double click for the default." : ""}`;
  return (
    <Tooltip title={`${setting.help}${ways}`} placement="topLeft" mouseEnterDelay={0.4}>
      <button
        {...scrub?.()}
        type="button"
        tabIndex={-1}
        className={`bare name ${changed ? "changed" : ""} ${scrub ? "scrub" : ""}`}
        onDoubleClick={() => onChange(setting.default as SettingValue)}
        aria-label={`${setting.label}: ${setting.help}`}
      >
        {short ?? setting.label}
      </button>
    </Tooltip>
  );
}
