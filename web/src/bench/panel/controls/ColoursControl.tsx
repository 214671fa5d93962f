import { Button } from "antd";
import { ColourField } from "../../colours/ColourField";
import { Name } from "./Name";
import type { ControlProps } from "./types";

const [LEAST, MOST] = [2, 6];
/** What a list begins with: warm and cool, then what lies between. */
const FRESH = ["coral", "sea", "sun", "leaf", "plum", "sky"] as const;
const HEX: Record<(typeof FRESH)[number], string> = {
  coral: "#ff6a4d", sea: "#0b86a8", sun: "#f2c14e", leaf: "#5fa86b", plum: "#8a4f9e", sky: "#7fb7e6",
}; // biome-ignore format: one line

/** A list of colours, or none: then other settings say them. */
export function ColoursControl(props: ControlProps) {
  const { setting, settings, onChange } = props;
  const own = settings[setting.name] as string[] | null | undefined;
  const write = (next: string[] | null, gesture?: string) => onChange(next as never, gesture);
  return (
    <section className="panel-part" aria-label={setting.label}>
      <div className="part-head">
        <Name {...props} />
        <span className="quiet small">{own ? `${own.length} of your own` : "by hue"}</span>
        <span className="grow" />
        {own ? (
          <Button size="small" onClick={() => write(null)}>
            By hue
          </Button>
        ) : (
          <Button size="small" onClick={() => write(FRESH.slice(0, LEAST).map((name) => HEX[name]))}>
            Own colours
          </Button>
        )}
      </div>
      {own?.map((colour, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a tint has no name but its number
        <div key={n} className="setting trailing">
          <span>Copy {n + 1}</span>
          <ColourField
            label={`Tint of copy ${n + 1}`}
            value={colour}
            onChange={(next) => write(own.map((one, k) => (k === n ? next : one)))}
          />
          <Button
            size="small"
            disabled={own.length <= LEAST}
            aria-label={`Remove copy ${n + 1}`}
            onClick={() => write(own.filter((_, k) => k !== n))}
          >
            ×
          </Button>
        </div>
      ))}
      {own && own.length < MOST && (
        <Button size="small" onClick={() => write([...own, HEX[FRESH[own.length] ?? "sun"]])}>
          Add a copy
        </Button>
      )}
    </section>
  );
}
