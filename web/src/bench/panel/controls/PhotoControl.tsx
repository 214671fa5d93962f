import { PhotoSelect } from "../../../shared/PhotoSelect";
import { effective } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A photo of the Shelf, or none. */
export function PhotoControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const now = effective(kind, settings, setting.name);
  return (
    <div className="setting two">
      <Name {...props} />
      <PhotoSelect
        label={setting.label}
        photo={now === null ? null : String(now)}
        placeholder="None"
        onChange={onChange}
        onClear={() => onChange(null)}
      />
    </div>
  );
}
