import { Select } from "antd";
import { useDeferredValue, useState } from "react";
import { usePhotos } from "../shared/usePhotos";
import "./SlotLine.css";

interface Props {
  label: string;
  /** Whether a transparent picture is wanted. */
  cutOut: boolean;
  photo: string | undefined;
  /** What stands there while no photo is chosen. */
  placeholder?: string;
  onChange: (photo: string) => void;
  onClear?: () => void;
}

/** The photo that goes into one layer of a recipe. */
export function SlotLine({ label, cutOut, photo, placeholder = cutOut ? "Choose a cut-out" : "Choose a photo", onChange, onClear }: Props) {
  const [search, setSearch] = useState("");
  const photos = usePhotos(useDeferredValue(search), "", cutOut);
  return (
    <div className="setting two">
      <span className="name clip" title={label}>
        {label}
      </span>
      <Select
        size="small"
        allowClear={Boolean(onClear)}
        showSearch={{ onSearch: setSearch, filterOption: false }}
        aria-label={`Photo for ${label}`}
        placeholder={placeholder}
        value={photo}
        onChange={(file: string | undefined) => (file === undefined ? onClear?.() : onChange(file))}
        options={photos.items.map((one) => ({ value: one.file_name, label: one.name, picture: one.thumbnail }))}
        optionRender={({ data }) => (
          <span className="row slot-option">
            <img src={data.picture} alt="" loading="lazy" />
            <span className="clip">{data.label}</span>
          </span>
        )}
        notFoundContent={cutOut ? "No cut-out answers to that" : "No photo answers to that"}
        listItemHeight={44}
        onInputKeyDown={(event) => event.stopPropagation()}
      />
    </div>
  );
}
