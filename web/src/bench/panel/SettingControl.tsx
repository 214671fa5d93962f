import { Button, ColorPicker, InputNumber, Segmented, Select, Slider, Switch, Tooltip } from "antd";
import { useRef, useState } from "react";
import type { Kind, Setting } from "../../api/client";
import { clamp, round } from "../model/geometry";
import type { Settings, SettingValue } from "../model/piece";
import { effective, isChanged, shownAs } from "../model/settings";

interface Props {
  kind: Kind;
  setting: Setting;
  settings: Settings;
  onChange: (value: SettingValue, gesture?: string) => void;
  onDragging: (dragging: boolean) => void;
}

let slides = 0;

/** The setting's name; shows its help, and a double click brings the default back. */
function Name({ setting, settings, onChange }: Props) {
  const changed = isChanged(setting, settings);
  return (
    <Tooltip title={`${setting.help}${changed ? " Double click for the default." : ""}`} placement="left" mouseEnterDelay={0.4}>
      <button
        type="button"
        className={`bare name ${changed ? "changed" : ""}`}
        onDoubleClick={() => onChange(setting.default as SettingValue)}
        aria-label={`${setting.label}: ${setting.help}`}
      >
        {setting.label}
      </button>
    </Tooltip>
  );
}

function NumberControl(props: Props) {
  const { kind, setting, settings, onChange, onDragging } = props;
  const { times, places, after } = shownAs(setting.unit);
  const value = Number(effective(kind, settings, setting.name) ?? 0);
  const low = setting.minimum ?? 0;
  const high = setting.maximum ?? 1;
  const step = setting.step ?? 0.01;
  const gesture = useRef<string | null>(null);
  const slide = (next: number) => {
    if (!gesture.current) {
      slides += 1;
      gesture.current = `slide-${slides}`;
      onDragging(true);
    }
    onChange(round(next, 5), gesture.current);
  };
  const done = () => {
    gesture.current = null;
    onDragging(false);
  };
  return (
    <div className="setting">
      <Name {...props} />
      <Slider
        min={low}
        max={high}
        step={step}
        value={value}
        onChange={slide}
        onChangeComplete={done}
        tooltip={{ open: false }}
        ariaLabelForHandle={setting.label}
      />
      <InputNumber
        size="small"
        aria-label={`${setting.label}, number`}
        value={round(value * times, places)}
        min={round(low * times, places)}
        max={round(high * times, places)}
        step={round(step * times, places) || 0.1}
        suffix={after || undefined}
        controls={false}
        onChange={(next) => next !== null && onChange(round(clamp(Number(next) / times, low, high), 6), `type-${setting.name}`)}
        onKeyDown={(event) => event.stopPropagation()}
      />
    </div>
  );
}

const LABELS: Record<string, string> = {
  bottom: "Bottom",
  top: "Top",
  beyond: "Beyond",
  stretch: "Stretch",
  mirror: "Mirror",
  tile: "Tile",
  empty: "Empty",
};
const named = (word: string) => LABELS[word] ?? word.charAt(0).toUpperCase() + word.slice(1);

function ChoiceControl(props: Props) {
  const { kind, setting, settings, onChange } = props;
  const choices = setting.choices ?? [];
  const value = String(effective(kind, settings, setting.name));
  const options = choices.map((choice) => ({ value: choice, label: named(choice) }));
  const many = choices.length > 4;
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

function SwitchControl(props: Props) {
  const { kind, setting, settings, onChange } = props;
  return (
    <div className="setting" style={{ gridTemplateColumns: "minmax(0, 1fr) auto" }}>
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

function ColourControl(props: Props) {
  const { setting, settings, onChange } = props;
  const own = settings[setting.name];
  return (
    <div className="setting" style={{ gridTemplateColumns: "84px minmax(0, 1fr) auto" }}>
      <Name {...props} />
      <span className="quiet small">{own ? String(own) : "from the picture"}</span>
      <span style={{ display: "flex", gap: 6 }}>
        {own ? (
          <Button size="small" onClick={() => onChange(null)}>
            Auto
          </Button>
        ) : null}
        <ColorPicker
          size="small"
          disabledAlpha
          value={own ? String(own) : "#888888"}
          onChangeComplete={(colour) => onChange(colour.toHexString().slice(0, 7))}
        />
      </span>
    </div>
  );
}

/** A seed: draw again, hold one that pleases, go back to earlier ones. */
function SeedControl(props: Props) {
  const { kind, setting, settings, onChange } = props;
  const seed = Number(effective(kind, settings, setting.name));
  const [held, setHeld] = useState(false);
  const [earlier, setEarlier] = useState<number[]>([]);
  const drawAgain = () => {
    setEarlier((all) => [seed, ...all.filter((s) => s !== seed)].slice(0, 6));
    onChange(Math.floor(Math.random() * 1_000_000));
  };
  return (
    <div className="setting wide">
      <div style={{ display: "flex", gap: 8, alignItems: "center" }}>
        <Button size="small" disabled={held} onClick={drawAgain}>
          Draw again
        </Button>
        <Button size="small" aria-pressed={held} onClick={() => setHeld(!held)}>
          {held ? "Held" : "Hold"}
        </Button>
        <span className="quiet small">draw {seed}</span>
      </div>
      {earlier.length > 0 && (
        <div className="chips">
          <span className="quiet small">Earlier:</span>
          {earlier.map((old) => (
            <button key={old} type="button" className="bare chip" disabled={held} onClick={() => onChange(old)}>
              {old}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

/** A list of points that is edited on the picture; here it is only put back. */
function PairsControl(props: Props) {
  const { setting, settings, onChange } = props;
  return (
    <div className="setting" style={{ gridTemplateColumns: "84px minmax(0, 1fr) auto" }}>
      <Name {...props} />
      <span className="quiet small">drag on the picture</span>
      <Button size="small" disabled={!isChanged(setting, settings)} onClick={() => onChange(setting.default as SettingValue)}>
        Reset
      </Button>
    </div>
  );
}

/** The control for one setting, chosen by what the catalogue says of it. */
export function SettingControl(props: Props) {
  const { setting } = props;
  if (setting.type === "curve" || setting.type === "corners") return <PairsControl {...props} />;
  if (setting.unit === "seed") return <SeedControl {...props} />;
  if (setting.unit === "colour") return <ColourControl {...props} />;
  if (setting.type === "choice") return <ChoiceControl {...props} />;
  if (setting.type === "boolean") return <SwitchControl {...props} />;
  return <NumberControl {...props} />;
}
