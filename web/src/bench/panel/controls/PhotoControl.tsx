import { Select } from "antd";
import { useState } from "react";
import { usePhoto, usePhotos } from "../../../shared/usePhotos";
import { effective } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";
import "./PhotoControl.css";

/** A photo of the Shelf, or none. */
export function PhotoControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const [search, setSearch] = useState("");
  const { items, hasMore, more } = usePhotos(search);
  const now = effective(kind, settings, setting.name);
  const chosen = usePhoto(now === null ? null : String(now));
  const shown = chosen && !search && !items.some((photo) => photo.id === chosen.id) ? [chosen, ...items] : items;
  return (
    <div className="setting two">
      <Name {...props} />
      <Select
        size="small"
        allowClear
        showSearch={{ filterOption: false, onSearch: setSearch }}
        onPopupScroll={({ currentTarget: list }) => {
          if (hasMore && list.scrollTop + list.clientHeight > list.scrollHeight - 80) more();
        }}
        placeholder="No other picture"
        aria-label={setting.label}
        value={now === null ? null : String(now)}
        options={shown.map((photo) => ({ value: photo.file_name, label: photo.name, preview: photo.thumbnail }))}
        optionRender={({ data }) => (
          <span className="row photo-option">
            <img src={data.preview} alt="" loading="lazy" />
            <span className="clip">{data.label}</span>
          </span>
        )}
        listItemHeight={52}
        onChange={(file: string | undefined) => onChange(file ?? null)}
      />
    </div>
  );
}
