import { PhotoSelect } from "../shared/PhotoSelect";

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
export function SlotLine({ label, photo, placeholder, ...more }: Props) {
  return (
    <div className="setting two">
      <span className="name clip" title={label}>
        {label}
      </span>
      <PhotoSelect
        label={`Photo for ${label}`}
        photo={photo ?? null}
        placeholder={placeholder ?? (more.cutOut ? "Choose a cut-out" : "Choose a photo")}
        {...more}
      />
    </div>
  );
}
