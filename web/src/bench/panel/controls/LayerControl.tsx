import { Select } from "antd";
import { allLayers } from "../../model/piece";
import { effective } from "../../model/settings";
import { useBenchPart } from "../../store";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A layer below the one that is worked on, or none. */
export function LayerControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const { history, layer } = useBenchPart("history", "layer");
  const layers = allLayers(history.present.document);
  const below = layers.slice(
    0,
    Math.max(
      0,
      layers.findIndex((one) => one.id === layer),
    ),
  );
  const now = effective(kind, settings, setting.name);
  if (!below.length && now === null) return null;
  return (
    <div className="setting two">
      <Name {...props} />
      <Select
        size="small"
        allowClear
        placeholder="Its own"
        aria-label={setting.label}
        value={now === null ? null : String(now)}
        options={below.map((one) => ({ value: one.id, label: one.name || one.id }))}
        onChange={(id: string | undefined) => onChange(id ?? null)}
      />
    </div>
  );
}
