import { Segmented, Select, Switch } from "antd";
import { effective } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

const LABELS: Record<string, string> = {
  bottom: "Ground",
  top: "Sky",
  shape: "True to shape",
  depth: "Tunnel",
  globe: "Full sphere",
  outwards: "Outwards",
  rising: "Lowest first",
  falling: "Highest first",
  unpinch: "Even out",
  beyond: "Keep what is there",
  stretch: "Stretch",
  mirror: "Mirror",
  tile: "Tile",
  empty: "Empty",
  rgb: "Red, green, blue",
  "light-colour": "Light, colour",
};
const named = (word: string) => LABELS[word] ?? word.charAt(0).toUpperCase() + word.slice(1);

/** Letters that stand beside each other in the panel, gaps counted. */
const ROOM = 46;

/** One of several words. */
export function ChoiceControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  const choices = setting.choices ?? [];
  const value = String(effective(kind, settings, setting.name));
  const options = choices.map((choice) => ({ value: choice, label: named(choice) }));
  const many = choices.length > 4 || options.reduce((room, one) => room + one.label.length + 4, 0) > ROOM;
  return (
    <div className={`setting ${many ? "" : "wide"}`} style={many ? { gridTemplateColumns: "84px minmax(0, 1fr)" } : undefined}>
      <Name {...props} />
      {many ? (
        <Select size="small" aria-label={setting.label} value={value} options={options} onChange={(next: string) => onChange(next)} />
      ) : (
        <Segmented aria-label={setting.label} value={value} options={options} onChange={(next) => onChange(String(next))} />
      )}
    </div>
  );
}

/** On or off. */
export function SwitchControl(props: ControlProps) {
  const { kind, setting, settings, onChange } = props;
  return (
    <div className="setting trailing">
      <Name {...props} />
      <Switch
        size="small"
        aria-label={setting.label}
        checked={effective(kind, settings, setting.name) === true}
        onChange={(on) => onChange(on)}
      />
    </div>
  );
}
