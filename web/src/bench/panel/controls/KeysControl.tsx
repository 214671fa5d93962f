import { Button } from "antd";
import { round } from "../../model/geometry";
import { KEYED, keysOf } from "../../model/melt";
import { shownAs } from "../../model/settings";
import { Name } from "./Name";
import type { ControlProps } from "./types";

/** What the hand set while a melt ran: each key with its round, to be gone to or taken away. */
export function KeysControl(props: ControlProps) {
  const { kind, settings, onChange } = props;
  const keys = keysOf(settings);
  const said = (name: string, value: number) => {
    const setting = kind.settings.find((one) => one.name === name);
    const { times, places, after } = shownAs(setting?.unit ?? "");
    return `${setting?.label.toLowerCase() ?? name} ${round(value * times, places)}${after}`;
  };
  return (
    <section className="panel-part" aria-label={props.setting.label}>
      <div className="part-head">
        <Name {...props} />
        <span className="quiet small">{keys.length || "nothing yet"}</span>
        {keys.length > 0 && (
          <Button size="small" onClick={() => onChange([])}>
            Clear
          </Button>
        )}
      </div>
      {keys.length > 0 && (
        <ol className="shape-list keys-list">
          {keys.map((key) => (
            <li key={key.round}>
              <span className="small">from {key.round}</span>
              <span className="small">
                {KEYED.filter((name) => key[name] !== undefined && key[name] !== null)
                  .map((name) => said(name, Number(key[name])))
                  .join(", ")}
              </span>
              <button
                type="button"
                className="bare"
                aria-label={`Remove the key of round ${key.round}`}
                onClick={() => onChange(keys.filter((one) => one !== key) as unknown as Record<string, unknown>[])}
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
