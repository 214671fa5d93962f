import { Button } from "antd";
import type { SettingValue } from "../../model/piece";
import { isChanged } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A list of points that is edited on the picture; here it is only put back. */
export function PairsControl(props: ControlProps) {
  const { setting, settings, onChange } = props;
  return (
    <div className="setting named">
      <Name {...props} />
      <span className="quiet small">drag on the picture</span>
      <Button size="small" disabled={!isChanged(setting, settings)} onClick={() => onChange(setting.default as SettingValue)}>
        Reset
      </Button>
    </div>
  );
}
