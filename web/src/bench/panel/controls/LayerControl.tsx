import { Select } from "antd";
import { layersBelow } from "../../model/layers";
import { effective } from "../../model/settings";
import { useBenchPart } from "../../store";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A layer below the one that is worked on, or none. */
export function LayerControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const { history, layer } = useBenchPart("history", "layer");
  const below = layersBelow(history.present.document, layer ?? "").reverse();
  const now = effective(kind, settings, setting.name);
  if (!below.length && now === null) return null;
  return (
    <div className="setting two">
      <Name {...props} />
      <Select
        size="small"
        allowClear
        placeholder="Its own picture"
        aria-label={setting.label}
        value={now === null ? null : String(now)}
        options={below.map((one) => ({ value: one.id, label: one.name || one.id }))}
        onChange={(id: string | undefined) => onChange(id ?? null)}
      />
    </div>
  );
}
