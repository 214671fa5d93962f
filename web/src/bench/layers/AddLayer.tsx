import { Button, Input } from "antd";
import { useState } from "react";
import { More } from "../../shared/More";
import { useCatalogue } from "../../shared/useCatalogue";
import { usePhotos } from "../../shared/usePhotos";
import { type Entry, freshLayerIds, type Source } from "../model/piece";
import { LAYER } from "../model/view";
import { useBenchPart, useDocument } from "../store";

/** Over the picture: what a new layer can be made of. It is put above the layer that is worked on. */
export function AddLayer() {
  const { layer, edit, patch } = useBenchPart("layer", "edit", "patch");
  const document = useDocument();
  const onClose = () => patch({ overlay: null });
  const { sources } = useCatalogue();
  const [search, setSearch] = useState("");
  const photos = usePhotos(search);
  const add = (name: string, source: Source) => {
    const [id = "layer"] = freshLayerIds(document, 1);
    const entry: Entry = { id, name, source, steps: [] };
    edit({ type: "addEntry", entry, above: layer });
    patch({ layer: id, selected: LAYER, side: "step", whereOpen: false, whereShape: null, tool: null, overlay: null });
  };
  return (
    <section className="finder" aria-label="Add a layer" onKeyDown={(event) => event.key === "Escape" && onClose()}>
      <div className="finder-head">
        <h2>Add a layer</h2>
        <Input
          autoFocus
          allowClear
          placeholder="A photo by its name"
          aria-label="Search photos"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
          onKeyDown={(event) => event.key !== "Escape" && event.stopPropagation()}
          className="finder-search"
        />
        <span className="quiet small grow">It lies above the layer you are on.</span>
        <Button size="small" onClick={onClose}>
          Close
        </Button>
      </div>
      <div className="finder-body">
        <h3 className="plain">From what is there</h3>
        <div className="chips">
          <button type="button" className="bare chip" onClick={() => add("All below", { kind: "below" })}>
            Everything so far
          </button>
          {sources.flatMap((source) =>
            source.looks.map((look) => (
              <button
                key={look.name}
                type="button"
                className="bare chip"
                onClick={() => add(look.name, { kind: source.key, ...look.settings })}
              >
                {look.name}
              </button>
            )),
          )}
        </div>
        <h3 className="plain">From the Shelf</h3>
        <div className="finder-grid">
          {photos.items.map((photo) => (
            <button
              key={photo.id}
              type="button"
              className="bare find"
              aria-label={`Layer from ${photo.name}`}
              onClick={() =>
                add(photo.name, {
                  kind: photo.transparent ? "cut-out" : "photo",
                  photo: photo.file_name,
                  ...(photo.transparent ? { fit: "contain" } : {}),
                })
              }
            >
              <img src={photo.preview} alt="" />
              <span>
                {photo.name}
                {photo.transparent && <small>cut-out</small>}
              </span>
            </button>
          ))}
        </div>
        <More pages={photos} />
      </div>
    </section>
  );
}
