import { Button } from "antd";
import { Figure } from "../../../shared/Figure";
import { clamp, round } from "../../model/geometry";
import { KEYED, keysOf, type MeltKey, withKey } from "../../model/melt";
import { shownAs } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";
import "./KeysControl.css";

/** What the hand set while a melt ran: each key with its round, to be changed or taken away. */
export function KeysControl(props: ControlProps) {
  const { kind, settings, onChange } = props;
  const keys = keysOf(settings);
  const write = (next: MeltKey[], gesture?: string) => onChange(next, gesture);
  const value = (key: MeltKey, name: (typeof KEYED)[number]) => {
    const setting = kind.settings.find((one) => one.name === name);
    const now = key[name];
    if (!setting || now === undefined || now === null) return null;
    const { times, places, after } = shownAs(setting.unit);
    return (
      <span key={name} className="key-value">
        <span className="small">{setting.label}</span>
        <Figure
          aria-label={`${setting.label} from round ${key.round}`}
          value={round(now * times, places)}
          step={round((setting.step ?? 0.01) * times, places) || 0.1}
          suffix={after || undefined}
          onChange={(next) =>
            next !== null &&
            write(
              withKey(keys, key.round, name, round(clamp(Number(next) / times, setting.minimum ?? -1, setting.maximum ?? 1), 6)),
              `key-${key.round}-${name}`,
            )
          }
        />
      </span>
    );
  };
  return (
    <section className="panel-part" aria-label={props.setting.label}>
      <div className="part-head">
        <Name {...props} />
        <span className="quiet small">{keys.length || "nothing yet"}</span>
        {keys.length > 0 && (
          <Button size="small" onClick={() => write([])}>
            Clear
          </Button>
        )}
      </div>
      {keys.length > 0 && (
        <ol className="shape-list keys-list">
          {keys.map((key) => (
            <li key={key.round}>
              <span className="small">from {key.round}</span>
              <div>{KEYED.map((name) => value(key, name))}</div>
              <button
                type="button"
                className="bare"
                aria-label={`Remove the key of round ${key.round}`}
                onClick={() => write(keys.filter((one) => one !== key))}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
