import { useQuery } from "@tanstack/react-query";
import { Select } from "antd";
import { api, take } from "../../../api/client";
import { effective } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** A photo of the Shelf, or none. */
export function PhotoControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const { data = [] } = useQuery({
    queryKey: ["photos", ""],
    queryFn: () => take(api.GET("/api/photos", { params: { query: { search: "" } } })),
  });
  const now = effective(kind, settings, setting.name);
  return (
    <div className="setting two">
      <Name {...props} />
      <Select
        size="small"
        allowClear
        showSearch
        placeholder="No other picture"
        aria-label={setting.label}
        value={now === null ? null : String(now)}
        options={data.map((photo) => ({ value: photo.file_name, label: photo.name }))}
        onChange={(file: string | undefined) => onChange(file ?? null)}
      />
    </div>
  );
}
