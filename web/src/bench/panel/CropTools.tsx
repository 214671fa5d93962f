import { Switch } from "antd";
import { useBenchPart } from "../store";

/** How the crop box answers to the hand. */
export function CropTools() {
  const { crop, patch } = useBenchPart("crop", "patch");
  const row = (name: "ratio" | "centred", label: string, key: string) => (
    <div className="setting trailing">
      <span title={`Or hold ${key} while dragging`}>{label}</span>
      <Switch size="small" aria-label={label} checked={crop[name]} onChange={(on) => patch({ crop: { ...crop, [name]: on } })} />
    </div>
  );
  return (
    <div>
      {row("ratio", "Keep the ratio", "Shift")}
      {row("centred", "About the centre", "Alt")}
    </div>
  );
}
