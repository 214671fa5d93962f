import { useState } from "react";
import { SearchSelect } from "./SearchSelect";
import { usePhoto, usePhotos } from "./usePhotos";
import "./PhotoSelect.css";

interface Props {
  label: string;
  /** File name of the photo that is chosen; null for none. */
  photo: string | null;
  placeholder: string;
  /** Whether only transparent pictures are offered. */
  cutOut?: boolean;
  onChange: (photo: string) => void;
  /** Where none may be chosen. */
  onClear?: () => void;
}

/** A photo of the Shelf, found by scrolling or by its words. */
export function PhotoSelect({ label, photo, placeholder, cutOut = false, onChange, onClear }: Props) {
  const [search, setSearch] = useState("");
  const { items, hasMore, more, isOld } = usePhotos(search, "", cutOut);
  const chosen = usePhoto(photo);
  const shown = chosen && !search && !items.some((one) => one.id === chosen.id) ? [chosen, ...items] : items;
  return (
    <SearchSelect
      search={search}
      onSearch={setSearch}
      isOld={isOld}
      nothing={cutOut ? "No cut-out found" : "No photo found"}
      allowClear={Boolean(onClear)}
      onPopupScroll={({ currentTarget: list }) => {
        if (hasMore && list.scrollTop + list.clientHeight > list.scrollHeight - 80) more();
      }}
      placeholder={placeholder}
      aria-label={label}
      value={photo}
      options={shown.map((one) => ({ value: one.file_name, label: one.name, picture: one.thumbnail }))}
      optionRender={({ data }) => (
        <span className="row photo-option">
          <img src={data.picture} alt="" loading="lazy" />
          <span className="clip">{data.label}</span>
        </span>
      )}
      popupMatchSelectWidth={240}
      listItemHeight={52}
      onChange={(file: string | undefined) => (file === undefined ? onClear?.() : onChange(file))}
    />
  );
}
