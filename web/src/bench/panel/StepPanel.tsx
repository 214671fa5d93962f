import type { Kind, Setting } from "../../api/client";
import { useLatest } from "../../shared/useLatest";
import type { DrawnFor } from "../model/edits";
import type { Channel, Layer, SettingValue, Step } from "../model/piece";
import { rowsOf } from "../model/rows";
import { applies, defaults, isChanged, reshapes, withTold } from "../model/settings";
import { useBench } from "../store";
import { useInForce } from "../useInForce";
import { useTold } from "../useTold";
import { WhereSection } from "../where/WhereSection";
import { ChannelsSection, RGB } from "./ChannelsSection";
import { Fold } from "./Fold";
import { changeOf, shownSettings, toolsOf } from "./kindTools";
import { LaySection } from "./LaySection";
import { SettingRow } from "./SettingRow";
import { StepButtons } from "./StepButtons";

interface Props {
  step: Step;
  kind: Kind;
  index: number;
  count: number;
  layer: Layer;
}

/** The selected step: what it does, its starting points, its settings. */
export function StepPanel({ step, kind, index, count, layer }: Props) {
  const playing = useBench((state) => state.playing);
  const edit = useBench((state) => state.edit);
  const patch = useBench((state) => state.patch);
  const tools = toolsOf(kind);
  const partly = !reshapes(kind, step.settings);
  const change = (part: Partial<Step>, gesture?: string) =>
    edit({ type: "step", step: step.id, change: part, ...(gesture ? { gesture: `${step.id}-${gesture}` } : {}) });
  const told = useTold();
  const inForce = useInForce(step);
  const settings = withTold(kind, shownSettings({ ...step, settings: inForce }, kind), told);
  const set = useLatest((name: string, value: SettingValue, gesture?: string, drawnFor?: DrawnFor) => {
    const named = gesture ? { gesture: `${step.id}-${gesture}` } : {};
    edit({ type: "set", step: step.id, settings: changeOf(step, kind, { [name]: value }, playing), drawnFor, ...named });
  });
  const drag = useLatest((dragging: boolean) => patch({ dragging: dragging || playing }));
  const setChannels = useLatest((channels: Channel[]) => change({ channels }));
  const setStrength = useLatest((strength: number, gesture?: string) => change({ strength }, gesture));
  const shown = kind.settings
    .filter((setting) => applies(kind, step.settings, setting))
    .filter((setting) => !tools.hides?.(setting, step.settings));
  const fine = shown.filter((setting) => setting.fine);
  const rows = (some: Setting[]) =>
    rowsOf(some).map((row) => (
      <SettingRow
        key={row.settings.map((one) => one.name).join()}
        kind={kind}
        row={row}
        settings={settings}
        onSet={set}
        onDragging={drag}
      />
    ));
  const changed = kind.settings.some((setting) => isChanged(setting, step.settings));
  return (
    <aside className="panel" aria-label={`Settings of ${kind.label}`}>
      <div className="panel-head">
        <h2>{kind.label}</h2>
        <span className="quiet small">
          {kind.family} · step {index + 1} of {count}
        </span>
        <p className="quiet">{kind.purpose}</p>
      </div>
      {tools.Starts ? (
        <tools.Starts step={step} kind={kind} />
      ) : (
        kind.starts.length > 0 && (
          <fieldset className="chips">
            <legend className="visually-hidden">Starts</legend>
            {kind.starts.map((start) => (
              <button
                key={start.name}
                type="button"
                className="bare chip"
                onClick={() => edit({ type: "set", step: step.id, settings: defaults(kind, start.settings) })}
              >
                {start.name}
              </button>
            ))}
          </fieldset>
        )
      )}
      {tools.Above && <tools.Above step={step} kind={kind} />}
      <div>{rows(shown.filter((setting) => !setting.fine))}</div>
      {fine.length > 0 && (
        <Fold
          section="fine"
          label="More"
          note={
            fine.some((setting) => isChanged(setting, step.settings)) ? "changed" : fine.map((one) => one.label.toLowerCase()).join(", ")
          }
        >
          {rows(fine)}
        </Fold>
      )}
      {tools.Below && <tools.Below step={step} kind={kind} />}
      {partly ? (
        <>
          <WhereSection sheet={layer.id} step={step.id} where={step.where ?? null} photo={layer.source.photo ?? null} />
          {!kind.cuts && <ChannelsSection channels={step.channels ?? RGB} onChange={setChannels} />}
          <LaySection label="Opacity" share={step.strength ?? 1} blend={step.blend ?? "normal"} onShare={setStrength} />
        </>
      ) : (
        <p className="quiet small">It reshapes the frame, so it cannot be limited to an area.</p>
      )}
      <StepButtons
        kind={kind}
        step={step.id}
        isOn={step.on !== false}
        isChanged={changed}
        index={index}
        layer={layer.id}
        layerName={layer.name ?? ""}
      />
    </aside>
  );
}
