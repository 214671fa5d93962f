import { Button, Segmented } from "antd";
import { useState } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { usePhotos } from "../../shared/usePhotos";
import type { Side } from "../model/edits";
import { clamp, round } from "../model/geometry";
import { distinct, type Entry, entryOf, freshLayerIds, madeSteps, type Source, type Step } from "../model/piece";
import { LAYER, SOURCE } from "../model/view";
import { useBenchPart, useDocument } from "../store";
import { PhotoGrid } from "./PhotoGrid";
import { PhotoSearch } from "./PhotoSearch";

/** Over the picture: what a new layer can be made of. It is put above or below the layer that is worked on. */
export function AddLayer() {
  const { layer, addSide, shape, edit, patch } = useBenchPart("layer", "addSide", "shape", "edit", "patch");
  const document = useDocument();
  const onClose = () => patch({ overlay: null });
  const [side, setSide] = useState<Side>(addSide);
  const active = entryOf(document, layer)?.name || "the layer";
  const { sources, figure } = useCatalogue();
  const [search, setSearch] = useState("");
  const photos = usePhotos(search);
  const hasWords = (source: Source) =>
    sources.find((one) => one.key === source.kind)?.settings.some((setting) => setting.widget === "text") ?? false;
  // Words are laid out in the piece's own frame, so that all of them are seen.
  const drawn = (source: Source): Source => (hasWords(source) && shape ? { ...source, ratio: clamp(round(shape), 0.1, 10) } : source);
  const add = (name: string, source: Source, steps: Step[] = []) => {
    const [id = "layer"] = freshLayerIds(document, 1);
    const entry: Entry = { id, name: distinct(document, name), source, steps };
    if (edit({ type: "addEntry", entry, on: layer, side }))
      // Whoever adds words wants to write them.
      patch({
        layer: id,
        selected: hasWords(source) ? SOURCE : LAYER,
        side: "step",
        whereOpen: false,
        whereShape: null,
        tool: null,
        overlay: null,
      });
  };
  return (
    <section className="finder" aria-label="Add a layer">
      <div className="finder-head">
        <h2>Add a layer</h2>
        <PhotoSearch value={search} onChange={setSearch} />
        <Segmented
          size="small"
          aria-label="Position"
          value={side}
          options={[
            { value: "above", label: `Above ${active}` },
            { value: "below", label: `Below ${active}` },
          ]}
          onChange={(next) => setSide(next as Side)}
        />
        <span className="grow" />
        <Button size="small" onClick={onClose}>
          Close
        </Button>
      </div>
      <div className="finder-body">
        <h3 className="plain">Drawn, or from this piece</h3>
        <div className="chips">
          <button type="button" className="bare chip" onClick={() => add("Picture below", { kind: "below" })}>
            The picture below, as a layer
          </button>
          {sources.flatMap((source) =>
            source.looks.map((look) => (
              <button
                key={look.name}
                type="button"
                className="bare chip"
                onClick={() => add(look.name, drawn({ kind: source.key, ...look.settings }))}
              >
                {look.name}
              </button>
            )),
          )}
        </div>
        <h3 className="plain">From the Shelf</h3>
        <PhotoGrid
          photos={photos}
          label="Layer from"
          onTake={(photo) =>
            add(
              photo.name,
              {
                kind: photo.transparent ? "cut-out" : "photo",
                photo: photo.file_name,
                ...(photo.transparent ? { fit: "contain" } : {}),
              },
              photo.cut ? madeSteps(document, figure) : [],
            )
          }
        />
      </div>
    </section>
  );
}
