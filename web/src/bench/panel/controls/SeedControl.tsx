import { Button } from "antd";
import { useState } from "react";
import { effective } from "../../model/settings";
import type { ControlProps } from "./types";

/** A seed: draw again, hold one that pleases, go back to earlier ones. */
export function SeedControl(props: ControlProps) {
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
      <div className="row">
        <Button size="small" disabled={held} onClick={drawAgain}>
          New random
        </Button>
        <Button size="small" aria-pressed={held} onClick={() => setHeld(!held)}>
          {held ? "Locked" : "Lock"}
        </Button>
        <span className="quiet small">no. {seed}</span>
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
