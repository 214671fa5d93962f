import { Button, ColorPicker } from "antd";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A colour, or none where the step finds its own. */
export function ColourControl(props: ControlProps) {
  const { setting, settings, onChange } = props;
  const own = settings[setting.name];
  return (
    <div className="setting named">
      <Name {...props} />
      <span className="quiet small">{own ? String(own) : "from the picture"}</span>
      <span className="row">
        {own && setting.nullable ? (
          <Button size="small" onClick={() => onChange(null)}>
            Auto
          </Button>
        ) : null}
        <ColorPicker
          size="small"
          disabledAlpha
          value={own ? String(own) : "#888888"}
          onChangeComplete={(colour) => onChange(colour.toHexString().slice(0, 7))}
        />
      </span>
    </div>
  );
}
