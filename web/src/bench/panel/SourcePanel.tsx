import { Button } from "antd";
import { useNavigate } from "react-router";
import { useCatalogue } from "../../shared/useCatalogue";
import { usePhoto } from "../../shared/usePhotos";
import { KeepSection } from "../keep/KeepSection";
import { entryOf, isGroup, layerOf, type Settings, sourceName } from "../model/piece";
import { rowsOf } from "../model/rows";
import { applies, defaults } from "../model/settings";
import { useBench, useBenchPart, useDocument } from "../store";
import { PhotoAdvice } from "./PhotoAdvice";
import { SettingRow } from "./SettingRow";

/** What the layer begins with: the photo, or a drawn source with its settings. */
export function SourcePanel() {
  const document = useDocument();
  const { layer, edit, patch, toggle } = useBenchPart("layer", "edit", "patch", "toggle");
  const { sources } = useCatalogue();
  const entry = entryOf(document, layer);
  if (entry && isGroup(entry)) {
    return (
      <aside className="panel" aria-label="What is in the group">
        <div className="panel-head">
          <h2>Its layers</h2>
          <span className="quiet small">source</span>
          <p className="quiet">
            The {entry.layers.length} layers of the group are combined first. The steps of the group act on the result.
          </p>
        </div>
      </aside>
    );
  }
  const { source } = layerOf(document, layer);
  const drawn = sources.find((s) => s.key === source.kind);
  if (!drawn) {
    return (
      <aside className="panel" aria-label="The photo">
        <div className="panel-head">
          <h2>Photo</h2>
          <span className="quiet small">source</span>
          <p className="quiet">{sourceName(source)}. It is never changed.</p>
        </div>
        {source.kind !== "below" && (
          <Button className="at-start" onClick={() => toggle("exchange")}>
            Use another photo
          </Button>
        )}
        {source.photo && source.kind !== "below" && <FigureLink photo={source.photo} />}
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
        <span className="quiet small">source</span>
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
        {rowsOf(drawn.settings.filter((setting) => applies(drawn, settings, setting))).map((row) => (
          <SettingRow
            key={row.settings.map((one) => one.name).join()}
            kind={drawn}
            row={row}
            settings={settings}
            onSet={(name, value, gesture) =>
              edit({ type: "source", settings: { [name]: value }, ...(gesture ? { gesture: `source-${gesture}` } : {}) })
            }
            onDragging={(dragging) => patch({ dragging })}
          />
        ))}
      </div>
    </aside>
  );
}

/** The way to where a figure is cut out of the photo, or corrected; and back here. */
function FigureLink({ photo }: { photo: string }) {
  const found = usePhoto(photo);
  const navigate = useNavigate();
  const piece = useBench((state) => state.pieceId);
  if (!found || (found.transparent && !found.cut)) return null;
  return (
    <Button
      className="at-start"
      onClick={() => navigate(`/figure/${encodeURIComponent(photo)}?back=${encodeURIComponent(`/bench/${piece}`)}`)}
    >
      {found.cut ? "Correct the figure" : "Cut a figure out of it"}
    </Button>
  );
}
