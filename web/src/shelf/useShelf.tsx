import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useNavigate } from "react-router";
import { api, type Document, type Photo, type PieceRow, type SourceData, type Start, take } from "../api/client";
import { usePages } from "../shared/usePages";
import { usePhotos } from "../shared/usePhotos";

type DeletedThing = "photos" | "pieces";

/** The Shelf's photos and pieces, and what can be done with them. */
export function useShelf(search: string, use = "") {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { message, notification } = App.useApp();
  const photos = usePhotos(search, use);
  const pieces = usePages(["pieces"], (query) => take(api.GET("/api/pieces", { params: { query } })));
  const refresh = (what: DeletedThing) => queries.invalidateQueries({ queryKey: [what] });
  const tell = (fault: Error) => void message.error(fault.message);

  const offerUndo = (what: DeletedThing, id: string, name: string) => {
    const key = `${what}-${id}`;
    notification.open({
      key,
      title: `“${name}” was deleted`,
      duration: 12,
      placement: "bottomLeft",
      actions: (
        <button
          type="button"
          className="bare chip"
          onClick={() => {
            notification.destroy(key);
            const call =
              what === "photos"
                ? take(api.POST("/api/photos/{photo_id}/restore", { params: { path: { photo_id: id } } }))
                : take(api.POST("/api/pieces/{piece_id}/restore", { params: { path: { piece_id: id } } }));
            call.then(() => refresh(what)).catch(tell);
          }}
        >
          Undo
        </button>
      ),
    });
  };

  const start = useMutation({
    mutationFn: ({ photo, key, loop }: { photo: Photo; key: Start["key"]; loop: boolean }) =>
      take(api.POST("/api/pieces", { body: { photo: photo.id, start: key, loop } })),
    onSuccess: (piece) => navigate(`/bench/${piece.id}`, { state: { fresh: true } }),
    onError: tell,
  });
  const startDrawn = useMutation({
    mutationFn: (source: SourceData) => take(api.POST("/api/pieces", { body: { source, start: "plain" } })),
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
      return take(api.POST("/api/pieces", { body: { name: file.name.replace(/\.json$/, "") || "Opened piece", document } }));
    },
    onSuccess: (piece) => navigate(`/bench/${piece.id}`),
    onError: (fault: Error, file) => void message.error({ content: `${file.name}: ${fault.message}`, duration: 12 }),
  });
  /** A delivered file opens its piece; it can still be put on the Shelf as the picture it is. */
  const openDelivered = useMutation({
    mutationFn: ({ file }: { file: File; asPhoto: () => void; alone: boolean }) => {
      const form = new FormData();
      form.append("file", file);
      return take(api.POST("/api/pieces/opened", { body: form as never, bodySerializer: (body) => body as never }));
    },
    onSuccess: (piece, { asPhoto, alone, file }) => {
      const key = `delivered-${piece.id}`;
      notification.open({
        key,
        title: `The piece inside ${file.name} was opened`,
        duration: 12,
        placement: "bottomLeft",
        actions: (
          <button
            type="button"
            className="bare chip"
            onClick={() => {
              notification.destroy(key);
              asPhoto();
            }}
          >
            Take the file as a photo as well
          </button>
        ),
      });
      if (alone) navigate(`/bench/${piece.id}`);
      return refresh("pieces");
    },
    onError: (fault: Error, { file }) => void message.error({ content: `${file.name}: ${fault.message}`, duration: 12 }),
  });
  const rename = useMutation({
    mutationFn: ({ photo, name }: { photo: Photo; name: string }) =>
      take(api.PATCH("/api/photos/{photo_id}", { params: { path: { photo_id: photo.id } }, body: { name } })),
    onSettled: () => refresh("photos"),
    onError: tell,
  });
  const removePhoto = useMutation({
    mutationFn: (photo: Photo) => take(api.DELETE("/api/photos/{photo_id}", { params: { path: { photo_id: photo.id } } })),
    onSuccess: (photo) => offerUndo("photos", photo.id, photo.name),
    onSettled: () => refresh("photos"),
    onError: tell,
  });
  const removePiece = useMutation({
    mutationFn: (piece: PieceRow) => take(api.DELETE("/api/pieces/{piece_id}", { params: { path: { piece_id: piece.id } } })),
    onSuccess: (piece) => offerUndo("pieces", piece.id, piece.name),
    onSettled: () => refresh("pieces"),
    onError: tell,
  });
  return { photos, pieces, start, startDrawn, openFile, openDelivered, rename, removePhoto, removePiece };
}
