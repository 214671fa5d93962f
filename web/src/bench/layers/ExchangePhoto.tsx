import { Button } from "antd";
import { useState } from "react";
import { usePhotos } from "../../shared/usePhotos";
import { layerOf } from "../model/piece";
import { useBenchPart, useDocument } from "../store";
import { PhotoGrid } from "./PhotoGrid";
import { PhotoSearch } from "./PhotoSearch";
import { useExchange } from "./useExchange";

/** Over the picture: another photo for the layer that is worked on, with all its steps. */
export function ExchangePhoto() {
  const { patch, layer } = useBenchPart("patch", "layer");
  const empty = layerOf(useDocument(), layer).source.photo === null;
  const [search, setSearch] = useState("");
  const photos = usePhotos(search);
  const { exchange } = useExchange();
  const close = () => patch({ overlay: null });
  return (
    <section className="finder" aria-label="Use another photo">
      <div className="finder-head">
        <h2>{empty ? "Choose a picture" : "Use another photo"}</h2>
        <PhotoSearch value={search} onChange={setSearch} />
        <span className="quiet small grow">The steps stay. You can also drop a file on the picture.</span>
        <Button size="small" onClick={close}>
          Close
        </Button>
      </div>
      <div className="finder-body">
        <PhotoGrid
          photos={photos}
          label="Use"
          onTake={(photo) => {
            exchange(photo);
            close();
          }}
        />
      </div>
    </section>
  );
}
