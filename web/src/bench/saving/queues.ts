import { api, type SavedPiece, take } from "../../api/client";
import { packedText } from "../model/pack";
import { useBench } from "../store";
import { type Keep, SaveQueue, type Send } from "./queue";
import { readUnsaved } from "./unsaved";

/** A request that outlives its page may not be larger, all such together. */
const OUTLIVES = 60_000;

const send: Send = (piece, { revision, token, history }, leaving) => {
  const { name, document } = history.present;
  const outlives = leaving && JSON.stringify(document).length < OUTLIVES;
  return take(
    api.PUT("/api/v1/pieces/{piece_id}", {
      params: { path: { piece_id: piece } },
      body: { revision, token, name, document },
      keepalive: outlives,
    }),
  );
};

const keep: Keep = async (piece, revision, history, most) => {
  await take(
    api.PUT("/api/v1/pieces/{piece_id}/history", {
      params: { path: { piece_id: piece } },
      body: { revision, history: packedText(history, most) },
    }),
  );
};

const queues = new Map<string, SaveQueue>();

/**
 * The queue of a piece that has just been fetched. What this page, or one that was closed, could not save yet is still wanted; else the
 * piece is as the server has it. One that is on the Bench stays as it is there: fetched anew, it may have been changed elsewhere, and going
 * on from that revision would overwrite the change unseen.
 */
export function queueOf(piece: SavedPiece): SaveQueue {
  let queue = queues.get(piece.id);
  if (!queue) {
    queue = new SaveQueue(piece, send, keep);
    queues.set(piece.id, queue);
    const unsaved = readUnsaved(piece.id);
    if (unsaved) queue.takeUp(unsaved, piece);
  } else if (queue.isClean && useBench.getState().pieceId !== piece.id) queue.take(piece);
  return queue;
}

/** Wait until what was edited on a piece before is on the server, or cannot be brought there; then it may be fetched. */
export const settled = async (piece: string): Promise<void> => {
  await queues.get(piece)?.flush();
};

window.addEventListener("pagehide", () => {
  for (const queue of queues.values()) queue.leave();
});
// What the browser has no room for would be lost: it asks before the page goes.
window.addEventListener("beforeunload", (event) => {
  if ([...queues.values()].some((queue) => !queue.isClean && !queue.keepHere())) event.preventDefault();
});
window.addEventListener("online", () => {
  for (const queue of queues.values()) void queue.flush();
});
