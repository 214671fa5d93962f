import { Button } from "antd";
import { ColourField } from "../../colours/ColourField";
import { effective } from "../../model/settings";
import { useTold } from "../../useTold";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A colour, or none where the step finds its own. */
export function ColourControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const own = effective(kind, settings, setting.name);
  // The colour that a step found by itself is the one that is shown.
  const found = useTold()?.[setting.name];
  const used = String(own ?? found ?? "#888888");
  // Beside its way back to the picture's own there is no room for the number: the swatch says it.
  const told = own ? (setting.nullable ? "" : String(own)) : `${found ? `${String(found)}, ` : ""}from the picture`;
  return (
    <div className="setting named">
      <Name {...props} />
      <span className="quiet small">{told}</span>
      <span className="row">
        {own && setting.nullable ? (
          <Button size="small" onClick={() => onChange(null)}>
            Auto
          </Button>
        ) : null}
        <ColourField label={setting.label} value={used} onChange={(colour) => onChange(colour)} />
      </span>
    </div>
  );
}
