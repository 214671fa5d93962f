import { App, Button } from "antd";
import type { Setting } from "../../../api/client";
import { type Bar, splitBar } from "../../model/bars";
import { layerOf } from "../../model/piece";
import { ownNumber } from "../../model/settings";
import { useBenchPart } from "../../store";
import { drawAgain, useBars } from "../../useBars";
import { Name } from "./Name";
import { NumberControl } from "./NumberControl";
import type { ControlProps } from "./types";

const share = (name: keyof Bar, label: string, minimum: number, maximum: number, help: string, unit = "share"): Setting =>
  ownNumber(name, label, minimum, maximum, unit, 0.001, help);
const NUMBERS = [
  share("shift", "Shift", -1, 1, "How far it moves sideways; right positive."),
  share("drop", "Down", -0.5, 0.5, "How far it moves up or down; down positive."),
  share("top", "Top", 0, 1, "Where its top is cut out."),
  share("height", "Height", 0.001, 0.5, "Of the height."),
  share("left", "Left", 0, 1, "Where its left end is cut out."),
  share("width", "Width", 0.001, 1, "Of the width."),
  share("stretch", "Stretch", 0.1, 4, "How much wider it becomes, about its middle.", "factor"),
];

/** The bars one by one: choose on the picture, change here; draw the others again while some are locked. */
export function BarsControl(props: ControlProps) {
  const { settings, onChange, onDragging } = props;
  const { message } = App.useApp();
  const { history, layer, selected, bar: chosen, tool, patch } = useBenchPart("history", "layer", "selected", "bar", "tool", "patch");
  const document = history.present.document;
  const work = layerOf(document, layer);
  const step = work.steps.find((one) => one.id === selected);
  const { bars = [], drawnFor } = useBars(document, step);
  const own = chosen === null ? undefined : bars[chosen];
  const locked = bars.filter((bar) => bar.locked).length;
  const write = (next: Bar[], gesture?: string) => onChange(next, gesture, drawnFor);
  const change = (part: Partial<Bar>, gesture?: string) =>
    write(
      bars.map((bar, n) => (n === chosen ? { ...bar, ...part } : bar)),
      gesture,
    );
  const again = () =>
    step &&
    drawAgain(document, work.id, step.id, Math.floor(Math.random() * 1_000_000))
      .then((next) => {
        write(next);
        patch({ bar: null });
      })
      .catch((fault: Error) => void message.error(fault.message));
  const split = () => {
    if (!own || chosen === null) return;
    write(bars.flatMap((bar, n) => (n === chosen ? splitBar(bar, 1.6) : [bar])));
  };
  const remove = () => {
    write(bars.filter((_, n) => n !== chosen));
    patch({ bar: null });
  };
  return (
    <section className="panel-part" aria-label="Bars">
      <div className="part-head">
        <Name {...props} />
        <span className="quiet small">
          {bars.length} {settings.bars ? "kept" : "drawn"}
          {locked ? `, ${locked} locked` : ""}
        </span>
      </div>
      <div className="chips">
        {settings.bars && (
          <button type="button" className="bare chip" onClick={() => void again()}>
            {locked ? "New random, keep locked" : "New random bars"}
          </button>
        )}
        <button
          type="button"
          className="bare chip"
          aria-pressed={tool === "bar"}
          onClick={() => patch({ tool: tool === "bar" ? null : "bar" })}
        >
          New bar
        </button>
        {settings.bars && (
          <button
            type="button"
            className="bare chip"
            onClick={() => {
              onChange(null);
              patch({ bar: null });
            }}
          >
            Reset to random
          </button>
        )}
      </div>
      {tool === "bar" && <p className="quiet small">Drag bars on the picture. Escape ends.</p>}
      {own ? (
        <>
          <div className="part-head">
            <strong>Bar {(chosen ?? 0) + 1}</strong>
            <span className="grow" />
            <Button size="small" aria-pressed={own.locked} onClick={() => change({ locked: !own.locked })}>
              {own.locked ? "Locked" : "Lock"}
            </Button>
            <Button size="small" onClick={split}>
              Split
            </Button>
            <Button size="small" onClick={remove}>
              Delete
            </Button>
          </div>
          {NUMBERS.map((setting) => (
            <NumberControl
              key={setting.name}
              kind={{ settings: NUMBERS }}
              setting={setting}
              settings={own as never}
              onChange={(value, gesture) => change({ [setting.name]: Number(value) }, gesture)}
              onDragging={onDragging}
            />
          ))}
        </>
      ) : (
        <p className="quiet small">Drag a bar on the picture to move it; with Alt also up and down.</p>
      )}
    </section>
  );
}
