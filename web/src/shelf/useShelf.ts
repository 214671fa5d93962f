import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useNavigate } from "react-router";
import { api, type Document, type Photo, type SourceData, type Start, take } from "../api/client";
import { usePages } from "../shared/usePages";
import { usePhotos } from "../shared/usePhotos";
import { useUndoNotice } from "../shared/useUndoNotice";
import { useRemove } from "./useRemove";

/** The Shelf's photos and pieces, and what can be done with them. */
export function useShelf(search: string, use = "") {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { message } = App.useApp();
  const notice = useUndoNotice();
  const photos = usePhotos(search, use);
  const pieces = usePages(["pieces"], (query) => take(api.GET("/api/v1/pieces", { params: { query } })));
  const refresh = (what: "photos" | "pieces") => queries.invalidateQueries({ queryKey: [what] });
  const tell = (fault: Error) => void message.error(fault.message);

  const start = useMutation({
    mutationFn: ({ photo, key, loop }: { photo: Photo; key: Start["key"]; loop: boolean }) =>
      take(api.POST("/api/v1/pieces", { body: { photo: photo.id, start: key, loop } })),
    onSuccess: (piece) => navigate(`/bench/${piece.id}`, { state: { fresh: true } }),
    onError: tell,
  });
  const startDrawn = useMutation({
    mutationFn: (source: SourceData) => take(api.POST("/api/v1/pieces", { body: { source, start: "plain" } })),
    onSuccess: (piece) => navigate(`/bench/${piece.id}`),
    onError: tell,
  });
  const openFile = useMutation({
    mutationFn: async (file: File) => {
      let document: Document;
      try {
        document = JSON.parse(await file.text());
      } catch {
        throw new Error(`${file.name} is not a piece file: it is not valid JSON.`);
      }
      return take(api.POST("/api/v1/pieces", { body: { name: file.name.replace(/\.json$/, "") || "Opened piece", document } }));
    },
    onSuccess: (piece) => navigate(`/bench/${piece.id}`),
    onError: (fault: Error, file) => void message.error({ content: `${file.name}: ${fault.message}`, duration: 12 }),
  });
  /** A delivered file opens its piece; it can still be put on the Shelf as the picture it is. */
  const openDelivered = useMutation({
    mutationFn: ({ file }: { file: File; asPhoto: () => void; alone: boolean }) => {
      const form = new FormData();
      form.append("file", file);
      return take(api.POST("/api/v1/pieces/imports", { body: form as never, bodySerializer: (body) => body as never }));
    },
    onSuccess: (piece, { asPhoto, alone, file }) => {
      notice(`The piece inside ${file.name} was opened`, async () => asPhoto(), { label: "Add the file as a photo too" });
      if (alone) navigate(`/bench/${piece.id}`);
      return refresh("pieces");
    },
    onError: (fault: Error, { file }) => void message.error({ content: `${file.name}: ${fault.message}`, duration: 12 }),
  });
  const rename = useMutation({
    mutationFn: ({ photo, name }: { photo: Photo; name: string }) =>
      take(api.PATCH("/api/v1/photos/{photo_id}", { params: { path: { photo_id: photo.id } }, body: { name } })),
    onSettled: () => refresh("photos"),
    onError: tell,
  });
  const removePhotos = useRemove("photos");
  const removePieces = useRemove("pieces");
  return { photos, pieces, start, startDrawn, openFile, openDelivered, rename, removePhotos, removePieces };
}
