import { memo } from "react";
import type { Channel } from "../model/piece";
import { Fold } from "./Fold";
import "./ChannelsSection.css";

interface Props {
  channels: Channel[];
  onChange: (channels: Channel[]) => void;
}

export const RGB: Channel[] = ["r", "g", "b"];
const CHOICES: { key: Channel; label: string }[] = [
  { key: "r", label: "Red" },
  { key: "g", label: "Green" },
  { key: "b", label: "Blue" },
  { key: "light", label: "Light" },
  { key: "colour", label: "Colour" },
];
const PAIR: Channel[] = ["light", "colour"];

/** Which channels a step acts on: any of red, green and blue, or light or colour alone. */
export const ChannelsSection = memo(function ChannelsSection({ channels, onChange }: Props) {
  const isOn = (key: Channel) => channels.includes(key);
  const press = (key: Channel) => {
    if (PAIR.includes(key)) {
      onChange(isOn(key) && channels.length === 1 ? RGB : [key]);
      return;
    }
    const kept = channels.filter((one) => RGB.includes(one));
    const next = isOn(key) ? kept.filter((one) => one !== key) : [...kept, key];
    onChange(next.length ? RGB.filter((one) => next.includes(one)) : RGB);
  };
  const all = RGB.every(isOn);
  return (
    <Fold section="channels" label="Channels" note={all ? "red, green, blue" : channels.join(", ")}>
      <fieldset className="channels">
        <legend className="visually-hidden">Channels</legend>
        {CHOICES.map(({ key, label }) => (
          <button
            key={key}
            type="button"
            className={`bare chip channel-${key}`}
            aria-pressed={all ? RGB.includes(key) : isOn(key)}
            onClick={() => press(key)}
          >
            {label}
          </button>
        ))}
      </fieldset>
    </Fold>
  );
});
