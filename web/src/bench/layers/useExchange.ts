import { useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import type { Photo } from "../../api/client";
import { uploadPhoto } from "../../api/upload";
import { entryOf, isGroup, layerOf, type Source } from "../model/piece";
import { useBench } from "../store";

/** Put another photo in the place of the layer's: from the Shelf, or a file that is put there first. All its steps stay. */
export function useExchange() {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const exchange = (photo: Photo) => {
    const { history, layer, edit } = useBench.getState();
    const { document } = history.present;
    const entry = entryOf(document, layer) ?? layerOf(document);
    if (isGroup(entry)) {
      void message.warning("A group has no photo of its own: choose one of its layers first.");
      return;
    }
    // How a photo lies stays; keep areas are those of the photo that was there, and what was drawn has nothing a photo could use.
    const { kind: _, photo: __, keep: ___, ...lies } = entry.source.photo === undefined ? { kind: "photo" } : entry.source;
    const fit = photo.transparent ? "contain" : "cover";
    const source = { fit, ...lies, kind: photo.transparent ? "cut-out" : "photo", photo: photo.file_name, keep: photo.keep };
    edit({ type: "ground", layer: entry.id, source: source as Source });
    void message.success(`${photo.name} is used now. Undo brings the other back.`);
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
