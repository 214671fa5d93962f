import { useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useCallback, useState } from "react";
import { api, type PieceRow, take } from "../api/client";
import { copied, keepCopied } from "../bench/clipboard";
import { record } from "../bench/model/edits";
import { unpackText } from "../bench/model/pack";
import { freshIds, layerOf, stepsOf } from "../bench/model/piece";
import { queueOf, settled } from "../bench/saving/queues";

const fetchPiece = async (id: string) => {
  await settled(id);
  const at = { params: { path: { piece_id: id } } };
  const piece = await take(api.GET("/api/v1/pieces/{piece_id}", at));
  const { history, revision } = await take(api.GET("/api/v1/pieces/{piece_id}/history", at));
  return { piece, history: revision === piece.revision ? history : null };
};

/** A trail copied from one piece and pasted onto others: after their own steps, each to be undone on its Bench. */
export function usePaste() {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const [count, setCount] = useState(copied().length);
  const [pasting, setPasting] = useState(false);
  const copy = useCallback(
    async (row: PieceRow) => {
      try {
        const { piece } = await fetchPiece(row.id);
        const steps = piece.document ? stepsOf(piece.document) : [];
        keepCopied(steps);
        setCount(steps.length);
        void message.success(`The trail of “${row.name}” is copied: ${steps.length} ${steps.length === 1 ? "step" : "steps"}.`);
      } catch (fault) {
        void message.error((fault as Error).message);
      }
    },
    [message],
  );
  const pasteOnto = async (row: PieceRow): Promise<void> => {
    const { piece, history } = await fetchPiece(row.id);
    const queue = queueOf(piece);
    // What was edited and could not be saved yet is not to be pasted onto unseen, nor cancelled.
    if (!queue.isClean) throw new Error("it has edits that are not saved yet; open it first");
    const before = unpackText(history, queue.wanted.present);
    const { document } = before.present;
    const layer = layerOf(document);
    const ids = freshIds(document, copied().length);
    const steps = copied().map((step, n) => ({ ...step, id: ids[n] ?? "" }));
    queue.offer(record(before, { type: "add", layer: layer.id, at: layer.steps.length, steps }));
    if (await queue.flush()) return;
    const why = "message" in queue.state ? queue.state.message : "it was changed elsewhere";
    queue.take(piece);
    throw new Error(why);
  };
  const paste = async (rows: PieceRow[]) => {
    setPasting(true);
    const refused: string[] = [];
    for (const row of rows) await pasteOnto(row).catch((fault: Error) => refused.push(`${row.name}: ${fault.message}`));
    setPasting(false);
    await queries.invalidateQueries({ queryKey: ["pieces"] });
    if (refused.length) void message.error({ content: refused.join(" "), duration: 12 });
    const done = rows.length - refused.length;
    if (done) void message.success(`Pasted onto ${done} ${done === 1 ? "piece" : "pieces"}.`);
  };
  return { count, copy, paste, pasting };
}
