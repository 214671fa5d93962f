import { useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import type { Photo } from "../../api/client";
import { uploadPhoto } from "../../api/upload";
import { layerOf } from "../model/piece";
import { useBench } from "../store";

/** Put another photo in the place of the layer's: from the Shelf, or a file that is put there first. All its steps stay. */
export function useExchange() {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const exchange = (photo: Photo) => {
    const { history, layer, edit } = useBench.getState();
    const { id, source } = layerOf(history.present.document, layer);
    const kind = photo.transparent ? "cut-out" : "photo";
    // Keep areas are those of the photo that was there.
    const settings = { kind, photo: photo.file_name, fit: source.fit ?? (photo.transparent ? "contain" : "cover"), keep: photo.keep };
    edit({ type: "source", layer: id, settings: settings as never });
    void message.success(`${photo.name} is used here now; undo brings the other back.`);
  };
  const takeFile = async (file: File) => {
    try {
      const photo = await uploadPhoto(file, () => undefined);
      await queries.invalidateQueries({ queryKey: ["photos"] });
      exchange(photo);
    } catch (fault) {
      void message.error(`${file.name}: ${(fault as Error).message}`);
    }
  };
  return { exchange, takeFile };
}
