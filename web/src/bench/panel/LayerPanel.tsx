import { Button, Segmented, Switch } from "antd";
import { EditableName } from "../../shared/EditableName";
import { linkedTo } from "../model/layers";
import { entryOf, freshLayerIds, HERE, isGroup, type Layer, layerOf, type Place, sourceName, type Where } from "../model/piece";
import { LAYER } from "../model/view";
import { useBench, useBenchPart, useDocument } from "../store";
import { WhereSection } from "../where/WhereSection";
import { LaySection } from "./LaySection";
import { PlaceNumbers } from "./PlaceNumbers";
import { PutOnShelf } from "./PutOnShelf";

/** The layer or group that is worked on: how it lies on the piece and on what is below. */
export function LayerPanel() {
  const document = useDocument();
  const { layer: id, edit, patch } = useBenchPart("layer", "edit", "patch");
  const entry = entryOf(document, id) ?? layerOf(document);
  const group = isGroup(entry);
  const change = (part: Parameters<typeof entryChange>[0], gesture?: string) => edit(entryChange(part, entry.id, gesture));
  const twins = linkedTo(document, entry.id);
  // One goes on with the copy, which takes the first free id.
  const duplicate = (linked: boolean) => {
    const [made = ""] = freshLayerIds(document, 1);
    if (edit({ type: "duplicate", id: entry.id, linked })) patch({ layer: made, selected: LAYER, whereOpen: false });
  };
  const forget = () => patch({ layer: layerOf(document).id, selected: null, whereOpen: false });
  return (
    <aside className="panel" aria-label={`Layer ${entry.name || entry.id}`}>
      <div className="panel-head">
        <h2>
          <EditableName value={entry.name || entry.id} label="Name of the layer" onChange={(name) => change({ name })} />
        </h2>
        <span className="quiet small">{group ? `group of ${entry.layers.length}` : "layer"}</span>
        <p className="quiet">
          {group
            ? "Its layers are combined first, then placed as one. Drag it on the picture to move it."
            : `From ${sourceName(entry.source)}. Drag it on the picture to move it.`}
        </p>
      </div>
      {twins.length > 0 && (
        <p className="quiet small">
          Linked with {twins.map((one) => one.name || one.id).join(", ")}: the same steps.{" "}
          <button type="button" className="bare chip" onClick={() => change({ link: null })}>
            Unlink
          </button>
        </p>
      )}
      <LaySection
        label="Opacity"
        share={entry.opacity ?? 1}
        blend={entry.blend ?? "normal"}
        onShare={(opacity, gesture) => change({ opacity }, gesture)}
      />
      <WhereSection sheet={entry.id} step={null} where={entry.where ?? null} photo={null} />
      {!entry.where && (
        <Button
          size="small"
          className="at-start"
          title="Hides the layer. Then paint on the picture where it should show."
          onClick={() => {
            change({ where: { shapes: [], feather: 0, invert: false }, opacity: 1 });
            patch({ whereOpen: true, tool: "stroke" });
          }}
        >
          Hide all, then paint
        </Button>
      )}
      <PlaceNumbers
        place={entry.place ?? HERE}
        onChange={(place, gesture) => change({ place }, gesture)}
        onReset={entry.place ? () => change({ place: null }) : null}
      />
      {!group && (entry.source.kind === "photo" || entry.source.kind === "cut-out") && <Fit layer={entry} />}
      <div className="setting trailing">
        <span>Visible</span>
        <Switch size="small" aria-label="Visible" checked={entry.visible !== false} onChange={(visible) => change({ visible })} />
      </div>
      <div className="row">
        <Button size="small" onClick={() => duplicate(false)}>
          Duplicate
        </Button>
        <Button
          size="small"
          title="A copy that shares its steps: a change in one changes both. Source, place and blend stay separate."
          onClick={() => duplicate(true)}
        >
          Linked copy
        </Button>
        <Button size="small" onClick={() => edit({ type: "moveEntry", id: entry.id, by: 1 })}>
          Forward
        </Button>
        <Button size="small" onClick={() => edit({ type: "moveEntry", id: entry.id, by: -1 })}>
          Back
        </Button>
        <Button
          size="small"
          onClick={() => {
            // A new group is what one goes on with: it takes the first free id.
            const [made = ""] = freshLayerIds(document, 1);
            edit({ type: group ? "ungroup" : "group", id: entry.id });
            if (group) forget();
            else patch({ layer: made, selected: LAYER, whereOpen: false });
          }}
        >
          {group ? "Ungroup" : "Group"}
        </Button>
        <Button
          size="small"
          disabled={document.layers.length === 1 && document.layers[0]?.id === entry.id}
          onClick={() => {
            if (edit({ type: "removeEntry", id: entry.id })) forget();
          }}
        >
          Delete
        </Button>
        <PutOnShelf layer={entry.id} upto={null} name={entry.name || "layer"} />
      </div>
    </aside>
  );
}

function entryChange(
  change: { name?: string; opacity?: number; visible?: boolean; place?: Place | null; where?: Where; link?: string | null },
  id: string,
  gesture?: string,
) {
  return { type: "entry" as const, id, change, ...(gesture ? { gesture: `${id}-${gesture}` } : {}) };
}

const FITS = [
  { value: "cover", label: "Cover" },
  { value: "contain", label: "Contain" },
  { value: "tile", label: "Tile" },
];

/** How a photo meets the piece's frame. */
function Fit({ layer }: { layer: Layer }) {
  const edit = useBench((state) => state.edit);
  const { source } = layer;
  const set = (settings: Record<string, number | string>, gesture?: string) =>
    edit({ type: "source", layer: layer.id, settings, ...(gesture ? { gesture } : {}) });
  return (
    <div className="setting wide">
      <span>Fit</span>
      <Segmented aria-label="Fit" value={String(source.fit ?? "cover")} options={FITS} onChange={(fit) => set({ fit })} />
      {source.fit === "tile" && (
        <PlaceNumbers
          tiled
          place={{ ...HERE, cell: Number(source.cell ?? 0.25), x: Number(source.x ?? 0), y: Number(source.y ?? 0) }}
          onChange={(part, gesture) => set({ cell: part.cell ?? 0.25, x: part.x, y: part.y }, `tile-${gesture}`)}
          onReset={null}
        />
      )}
    </div>
  );
}
