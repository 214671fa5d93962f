import { Input } from "antd";
import { effective } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** Words, on several lines where need be. */
export function TextControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  return (
    <div className="setting wide">
      <Name {...props} />
      <Input.TextArea
        autoSize={{ minRows: 2, maxRows: 5 }}
        maxLength={300}
        aria-label={`${setting.label}, text`}
        value={String(effective(kind, settings, setting.name) ?? "")}
        onChange={(event) => onChange(event.target.value, `type-${setting.name}`)}
      />
    </div>
  );
}
