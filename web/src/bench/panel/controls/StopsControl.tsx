import { Button } from "antd";
import { type PointerEvent, useRef, useState } from "react";
import type { OwnGradient } from "../../../api/client";
import { EditableName } from "../../../shared/EditableName";
import { Figure } from "../../../shared/Figure";
import { More } from "../../../shared/More";
import { ColourField } from "../../colours/ColourField";
import { useGradients } from "../../colours/useGradients";
import { clamp, round } from "../../model/geometry";
import { byLight, colourOf, cssOf, evenly, type Stop, turnedOver } from "../../model/tones";
import { Marker } from "../../tones/ToneTools";
import { Name } from "./Name";
import type { ControlProps } from "./types";
import "./StopsControl.css";

const MOST = 32;

/** A gradient: press on it to add a stop, drag stops along it, change their colours; and the book of those that were kept. */
export function StopsControl(props: ControlProps) {
  const { setting, settings, onChange, onDragging } = props;
  const stops = (settings[setting.name] ?? setting.default) as unknown as Stop[];
  const [chosen, setChosen] = useState(0);
  const bar = useRef<HTMLButtonElement>(null);
  const own = stops[Math.min(chosen, stops.length - 1)];
  const n = own ? stops.indexOf(own) : 0;
  const write = (next: Stop[], gesture?: string) => onChange(next as never, gesture);
  const change = (k: number, part: Partial<Stop>, gesture?: string) =>
    write(
      stops.map((stop, m) => (m === k ? { ...stop, ...part } : stop)),
      gesture,
    );
  const add = (at: number) => {
    if (stops.length >= MOST) return;
    write([...stops, { at: round(at, 3), colour: colourOf(stops, at) }]);
    setChosen(stops.length);
  };
  const press = (event: PointerEvent) => {
    const bounds = bar.current?.getBoundingClientRect();
    if (bounds) add(clamp((event.clientX - bounds.left) / bounds.width, 0, 1));
  };
  return (
    <section className="panel-part stops" aria-label={setting.label}>
      <div className="part-head">
        <Name {...props} />
        <span className="quiet small">{stops.length} stops</span>
      </div>
      <button
        ref={bar}
        type="button"
        className="bare gradient-bar"
        aria-label="Click to add a stop"
        style={{ background: cssOf(stops) }}
        onPointerDown={press}
        onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && add(0.5)}
      />
      <div className="tone-markers">
        {stops.map((stop, k) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a stop has no name but its number
          <span key={k} className={k === n ? "stop chosen" : "stop"}>
            <Marker
              label={`Stop ${k + 1}`}
              at={stop.at}
              fill={stop.colour}
              onMove={(to, gesture) => change(k, { at: round(clamp(to, 0, 1), 3) }, `${setting.name}-${gesture}`)}
              onReset={() => setChosen(k)}
              onFocus={() => setChosen(k)}
              onDragging={onDragging}
            />
          </span>
        ))}
      </div>
      {own && (
        <div className="row">
          <Figure
            aria-label={`Place of stop ${n + 1}`}
            value={round(own.at * 100, 1)}
            min={0}
            max={100}
            step={0.5}
            suffix=" %"
            onChange={(next) => next !== null && change(n, { at: round(clamp(Number(next) / 100, 0, 1), 3) }, `type-stop-${n}`)}
          />
          <ColourField label={`Colour of stop ${n + 1}`} value={own.colour} onChange={(colour) => change(n, { colour })} />
          <Button size="small" disabled={stops.length <= 2} onClick={() => write(stops.filter((_, k) => k !== n))}>
            Remove
          </Button>
        </div>
      )}
      <div className="chips">
        <button type="button" className="bare chip" onClick={() => write(turnedOver(stops))}>
          Reverse
        </button>
        <button type="button" className="bare chip" onClick={() => write(evenly(stops))}>
          Spread evenly
        </button>
        <button
          type="button"
          className="bare chip"
          title="Places each colour by its own brightness, so light and dark stay as they are."
          onClick={() => write(byLight(stops))}
        >
          Sort by brightness
        </button>
      </div>
      <Kept stops={stops} onTake={write} />
    </section>
  );
}

/** The gradients that were kept, to be taken, renamed, deleted; and the one at hand to be kept. */
function Kept({ stops, onTake }: { stops: Stop[]; onTake: (stops: Stop[]) => void }) {
  const book = useGradients();
  const [gone, setGone] = useState<OwnGradient | null>(null);
  return (
    <section aria-label="Saved gradients" className="kept-gradients">
      <div className="part-head">
        <strong className="small">Saved gradients</strong>
        <Button size="small" onClick={() => book.keep.mutate({ name: `Gradient ${book.own.count + 1}`, stops })}>
          Save this one
        </Button>
      </div>
      {gone && (
        <p className="quiet small">
          “{gone.name}” was deleted.{" "}
          <button type="button" className="bare chip" onClick={() => book.restore.mutate(gone, { onSuccess: () => setGone(null) })}>
            Undo
          </button>
        </p>
      )}
      {!book.own.count && !gone && <p className="quiet small">None yet.</p>}
      {book.own.items.map((gradient) => (
        <div key={gradient.id} className="kept-gradient">
          <button
            type="button"
            className="bare gradient-bar"
            aria-label={`Use ${gradient.name}`}
            style={{ background: cssOf(gradient.stops) }}
            onClick={() => onTake(gradient.stops)}
          />
          <span className="clip small">
            <EditableName value={gradient.name} label="Name of the gradient" onChange={(name) => book.rename.mutate({ gradient, name })} />
          </span>
          <button
            type="button"
            className="bare"
            aria-label={`Delete ${gradient.name}`}
            onClick={() => book.remove.mutate(gradient, { onSuccess: () => setGone(gradient) })}
          >
            ×
          </button>
        </div>
      ))}
      <More pages={book.own} />
    </section>
  );
}
