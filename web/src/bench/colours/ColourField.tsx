import { Button, ColorPicker } from "antd";
import { useState } from "react";
import { prefer, usePrefs } from "../prefs";
import { usePalette } from "./usePalette";
import { usePick } from "./usePick";

const KEPT = 12;

interface Props {
  /** What the colour is of, as a title. */
  label: string;
  value: string;
  onChange: (colour: string) => void;
}

/** Remember a colour among those used lately. */
export function remember(colour: string): void {
  const recent = usePrefs.getState().recentColours ?? [];
  prefer({ recentColours: [colour, ...recent.filter((one) => one !== colour)].slice(0, KEPT) });
}

/** A colour: chosen in its sheet, where the piece's own and those used lately are offered, or taken from the picture. */
export function ColourField({ label, value, onChange }: Props) {
  const [open, setOpen] = useState(false);
  const recent = usePrefs((prefs) => prefs.recentColours) ?? [];
  const palette = usePalette(open);
  const take = (colour: string) => {
    onChange(colour);
    remember(colour);
  };
  const [picking, pick] = usePick(label, "finished", take);
  return (
    <span className="row colour-field">
      <ColorPicker
        size="small"
        disabledAlpha
        value={value}
        onOpenChange={setOpen}
        onChangeComplete={(colour) => take(colour.toHexString().slice(0, 7))}
        presets={[
          { label: "In this piece", colors: palette, key: "piece" },
          ...(recent.length ? [{ label: "Recent", colors: recent, key: "recent" }] : []),
        ]}
      >
        <button type="button" className="bare swatch" aria-label={`${label}: ${value}; change`} style={{ background: value }} />
      </ColorPicker>
      <Button
        size="small"
        aria-pressed={picking}
        aria-label={`From picture: ${label.toLowerCase()}`}
        title="Click on the picture to use the colour there."
        onClick={pick}
      >
        From picture
      </Button>
    </span>
  );
}
