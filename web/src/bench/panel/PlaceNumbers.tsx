import { Button, Switch } from "antd";
import type { Setting } from "../../api/client";
import type { Place } from "../model/piece";
import { useBench } from "../store";
import { NumberControl } from "./controls/NumberControl";

interface Props {
  place: Place & { cell?: number };
  onChange: (place: Place & { cell?: number }, gesture?: string) => void;
  onReset: (() => void) | null;
  names?: string[];
}

const one = (name: string, label: string, unit: string, minimum: number, maximum: number, fallback: number, help: string): Setting => ({
  name,
  label,
  unit,
  type: "number",
  choices: null,
  minimum,
  maximum,
  step: unit === "turns" ? 0.0025 : 0.01,
  default: fallback,
  auto: null,
  when: null,
  nullable: false,
  help,
});

const NUMBERS = [
  one("x", "Across", "units", -4, 4, 0, "Moved right positive, in units of the piece."),
  one("y", "Down", "units", -4, 4, 0, "Moved down positive, in units of the piece."),
  one("scale", "Scale", "factor", 0.05, 6, 1, "1 is as large as its fit makes it."),
  one("turn", "Turn", "turns", -1, 1, 0, "Clockwise positive."),
  one("cell", "Cell", "units", 0.02, 2, 0.25, "Half the shorter side of one copy."),
];

/** A layer's place in numbers, beside its handles on the picture. */
export function PlaceNumbers({ place, onChange, onReset, names = ["x", "y", "scale", "turn"] }: Props) {
  const patch = useBench((state) => state.patch);
  return (
    <div>
      {NUMBERS.filter((setting) => names.includes(setting.name)).map((setting) => (
        <NumberControl
          key={setting.name}
          kind={{ settings: NUMBERS }}
          setting={setting}
          settings={place as never}
          onChange={(value, gesture) => onChange({ ...place, [setting.name]: Number(value) }, gesture)}
          onDragging={(dragging) => patch({ dragging })}
        />
      ))}
      {names.includes("turn") && (
        <div className="setting" style={{ gridTemplateColumns: "minmax(0, 1fr) auto auto" }}>
          <span>Flipped</span>
          {onReset && (
            <Button size="small" onClick={onReset}>
              Put back
            </Button>
          )}
          <Switch size="small" aria-label="Flipped" checked={place.flip} onChange={(flip) => onChange({ ...place, flip })} />
        </div>
      )}
    </div>
  );
}
