import { Button, Switch } from "antd";
import type { Setting } from "../../api/client";
import { ColourField } from "../colours/ColourField";
import { ownNumber } from "../model/settings";
import { MODES, NEW_TOUCH, ownTurn, type Stroke, type Touch, takesSource, withSource } from "../model/touch";
import { useBench, useBenchPart } from "../store";
import { useDoubles } from "../useDoubles";
import { useRingCentre } from "../useInForce";
import { NumberControl } from "./controls/NumberControl";
import type { ToolProps } from "./kindTools";
import "./TouchTools.css";

const BRUSH = [
  ownNumber("radius", "Size", 0.005, 0.6, "units", 0.005, "Radius of the brush. N smaller, M larger."),
  ownNumber("hardness", "Hardness", 0, 1, "share", 0.05, "100 % has a hard edge. Shift + N softer, Shift + M harder."),
  ownNumber("opacity", "Opacity", 0, 1, "share", 0.05, "0 % hides the stroke, 100 % shows it fully."),
];
const SOURCE = [
  ownNumber("turn", "Turn", -0.5, 0.5, "turns", 0.0025, "Turns the source clockwise."),
  ownNumber("scale", "Scale", 0.25, 4, "factor", 0.05, "Above 1 the source is shown larger."),
];

const labelOf = (mode: string): string => MODES.find((one) => one.value === mode)?.label ?? mode;

/** What is painted with, and the strokes that are there. */
export function TouchTools({ step }: ToolProps) {
  const {
    touch,
    tool,
    stroke: chosen,
    picking,
    doublesShown,
    patch,
  } = useBenchPart("touch", "tool", "stroke", "picking", "doublesShown", "patch");
  const doubles = useDoubles();
  const edit = useBench((state) => state.edit);
  const strokes = (step.settings.strokes ?? []) as Stroke[];
  const own = chosen === null ? undefined : strokes[chosen];
  const now = {
    ...touch,
    ...(own ? { mode: own.mode, radius: own.radius, hardness: own.hardness, opacity: own.opacity, ...own.source, turn: ownTurn(own) } : {}),
  };
  const write = (next: Stroke[], gesture?: string) =>
    edit({ type: "set", step: step.id, settings: { strokes: next }, ...(gesture ? { gesture: `${step.id}-${gesture}` } : {}) });
  const change = (part: Partial<Stroke>, gesture?: string) =>
    write(
      strokes.map((one, n) => (n === chosen ? { ...one, ...part } : one)),
      gesture && `${gesture}-${chosen}`,
    );
  const hold = (part: Partial<Touch>) => patch({ touch: { ...touch, ...part } });
  const setNumber = (name: string, value: number, gesture?: string) => {
    if (!own) hold({ [name]: value, ...(name === "turn" || name === "scale" ? { kept: null } : {}) });
    else if (name === "turn" || name === "scale") change({ source: withSource(own, { [name]: Number(value) }) }, gesture);
    else change({ [name]: value }, gesture);
  };
  const rows = (some: Setting[]) =>
    some.map((setting) => (
      <NumberControl
        key={setting.name}
        kind={{ settings: some }}
        setting={setting}
        settings={now as never}
        onChange={(value, gesture) => setNumber(setting.name, Number(value), gesture)}
        onDragging={(dragging) => own && patch({ dragging })}
      />
    ));
  const dab = () => {
    const made: Stroke = { mode: "heal", line: [0, 0], pressure: [], outline: [], radius: touch.radius, hardness: touch.hardness, opacity: touch.opacity, colour: null, source: { dx: 0.3, dy: 0, turn: 0, scale: 1, about: null }, on: true }; // biome-ignore format: one thing
    write([...strokes, touch.mode === "colour" ? { ...made, mode: "colour", colour: touch.colour } : { ...made, mode: touch.mode }]);
    patch({ stroke: strokes.length });
  };
  const painting = tool === "touch";
  const layer = useBench((state) => state.layer);
  const ring = useRingCentre(layer, step.id);
  const mode = own?.mode ?? touch.mode;
  return (
    <section className="touch-tools" aria-label="Strokes">
      <fieldset className="chips">
        <legend className="visually-hidden">What strokes do</legend>
        {MODES.map(({ value, label }) => (
          <button
            key={value}
            type="button"
            className="bare chip"
            aria-pressed={mode === value}
            onClick={() =>
              own
                ? change({ mode: value, colour: value === "colour" ? (own.colour ?? touch.colour) : null })
                : patch({ touch: { ...touch, mode: value }, tool: "touch" })
            }
          >
            {label}
          </button>
        ))}
      </fieldset>
      <p className="quiet small" role="status">
        {own
          ? `Stroke ${(chosen ?? 0) + 1} is selected: changes apply to it.`
          : !painting
            ? "The brush is off."
            : touch.mode === "clone" && !touch.patch && !touch.anchor
              ? "Click where the texture should come from, then paint."
              : touch.patch && takesSource(touch.mode)
                ? "Outline an area, then drag it to better texture."
                : touch.mode === "heal" && !touch.anchor
                  ? "Paint over what should go. Texture is found nearby."
                  : MODES.find((one) => one.value === touch.mode)?.help}
      </p>
      {rows(BRUSH)}
      {mode === "colour" && (
        <div className="setting trailing">
          <span>Colour</span>
          <span className="row">
            <ColourField
              label="Colour of the brush"
              value={own?.colour ?? touch.colour}
              onChange={(next) => (own ? change({ colour: next }) : hold({ colour: next }))}
            />
          </span>
        </div>
      )}
      {!own && (
        <div className="setting trailing">
          <span>Outline areas</span>
          <Switch
            size="small"
            aria-label="Outline areas"
            checked={touch.patch}
            onChange={(on) => patch({ touch: { ...touch, patch: on }, tool: "touch" })}
          />
        </div>
      )}
      {takesSource(mode) && (
        <>
          {rows(SOURCE)}
          {!own && (
            <>
              {ring && (
                <div className="setting trailing">
                  <span>Turn with the ring</span>
                  <Switch
                    size="small"
                    aria-label="Turn with the ring"
                    checked={touch.round}
                    onChange={(on) => hold({ round: on, kept: null })}
                  />
                </div>
              )}
              <div className="setting trailing">
                <span>Source stays in place</span>
                <Switch size="small" aria-label="Source stays in place" checked={touch.fixed} onChange={(on) => hold({ fixed: on })} />
              </div>
              <Button size="small" aria-pressed={picking} onClick={() => patch({ picking: !picking, tool: "touch" })}>
                {touch.anchor || touch.mode === "clone" ? "Choose another source" : "Choose a source"}
              </Button>
            </>
          )}
        </>
      )}
      <div className="row">
        <Button size="small" aria-pressed={painting} onClick={() => patch({ tool: painting ? null : "touch" })}>
          {painting ? "Brush off" : "Brush on"}
        </Button>
        <Button size="small" onClick={dab}>
          Add a dab in the middle
        </Button>
      </div>
      {strokes.length > 0 && (
        <div className="row">
          <Button size="small" aria-pressed={doublesShown} onClick={() => patch({ doublesShown: !doublesShown })}>
            {doublesShown ? "Hide repeats" : "Show repeats"}
          </Button>
          {doubles && (
            <span className="quiet small" role="status">
              {doubles.length
                ? `${doubles.length} ${doubles.length === 1 ? "place appears" : "places appear"} twice`
                : "none that can be seen"}
            </span>
          )}
        </div>
      )}
      {strokes.length > 0 && (
        <ol className="stroke-list" aria-label="Strokes made">
          {strokes.map((one, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a stroke is known by its order alone
            <li key={index} className={index === chosen ? "chosen" : ""}>
              <button
                type="button"
                className="bare"
                aria-pressed={index === chosen}
                onClick={() => patch({ stroke: index === chosen ? null : index })}
              >
                {index + 1} · {labelOf(one.mode)}
                {one.outline.length ? " patch" : ""}
              </button>
              <Switch
                size="small"
                aria-label={`Stroke ${index + 1} shown`}
                checked={one.on}
                onChange={(on) => write(strokes.map((other, n) => (n === index ? { ...other, on } : other)))}
              />
              <button
                type="button"
                className="bare"
                aria-label={`Delete stroke ${index + 1}`}
                onClick={() => {
                  write(strokes.filter((_, n) => n !== index));
                  patch({ stroke: null });
                }}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
      )}
      {!own && takesSource(touch.mode) && touch.anchor && (
        <Button size="small" onClick={() => hold({ anchor: NEW_TOUCH.anchor, kept: null })}>
          Clear the source
        </Button>
      )}
    </section>
  );
}
