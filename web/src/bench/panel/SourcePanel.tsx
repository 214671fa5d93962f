import { useCatalogue } from "../../shared/useCatalogue";
import { KeepSection } from "../keep/KeepSection";
import { layerOf, type Settings, sourceName } from "../model/piece";
import { applies, defaults } from "../model/settings";
import { useBenchPart, useDocument } from "../store";
import { PhotoAdvice } from "./PhotoAdvice";
import { SettingControl } from "./SettingControl";

/** What the layer begins with: the photo, or a drawn source with its settings. */
export function SourcePanel() {
  const document = useDocument();
  const { layer, edit, patch } = useBenchPart("layer", "edit", "patch");
  const { sources } = useCatalogue();
  const { source } = layerOf(document, layer);
  const drawn = sources.find((s) => s.key === source.kind);
  if (!drawn) {
    return (
      <aside className="panel" aria-label="The photo">
        <div className="panel-head">
          <h2>Photo</h2>
          <span className="quiet small">where the trail begins</span>
          <p className="quiet">{sourceName(source)}. It is never changed; every step works on what it gives.</p>
        </div>
        <PhotoAdvice />
        {source.kind !== "below" && <KeepSection layer={layerOf(document, layer)} />}
      </aside>
    );
  }
  const settings = source as Settings;
  return (
    <aside className="panel" aria-label={`Settings of the ${drawn.label.toLowerCase()}`}>
      <div className="panel-head">
        <h2>{drawn.label}</h2>
        <span className="quiet small">where the trail begins</span>
        <p className="quiet">{drawn.purpose}</p>
      </div>
      <div className="chips">
        {drawn.looks.map((look) => (
          <button
            key={look.name}
            type="button"
            className="bare chip"
            onClick={() =>
              edit({ type: "source", settings: { ...defaults(drawn, look.settings as Settings), ratio: settings.ratio ?? 1.5 } })
            }
          >
            {look.name}
          </button>
        ))}
      </div>
      <div>
        {drawn.settings
          .filter((setting) => applies(drawn, settings, setting))
          .map((setting) => (
            <SettingControl
              key={setting.name}
              kind={drawn}
              setting={setting}
              settings={settings}
              onChange={(value, gesture) =>
                edit({ type: "source", settings: { [setting.name]: value }, ...(gesture ? { gesture: `source-${gesture}` } : {}) })
              }
              onDragging={(dragging) => patch({ dragging })}
            />
          ))}
      </div>
    </aside>
  );
}
