import { useMutation, useQueryClient } from "@tanstack/react-query";
import pLimit from "p-limit";
import { api, take } from "../api/client";
import { useUndoNotice } from "../shared/useUndoNotice";

const AT_ONCE = 4;

interface Row {
  id: string;
  name: string;
}

const CALLS = {
  photos: {
    remove: (id: string) => take(api.DELETE("/api/v1/photos/{photo_id}", { params: { path: { photo_id: id } } })),
    restore: (id: string) => take(api.POST("/api/v1/photos/{photo_id}/restore", { params: { path: { photo_id: id } } })),
  },
  pieces: {
    remove: (id: string) => take(api.DELETE("/api/v1/pieces/{piece_id}", { params: { path: { piece_id: id } } })),
    restore: (id: string) => take(api.POST("/api/v1/pieces/{piece_id}/restore", { params: { path: { piece_id: id } } })),
  },
};

interface Failed {
  row: Row;
  why: string;
}

/** Do the same with every row, and tell with which of them it could not be done, and why. */
async function withEach(rows: Row[], act: (id: string) => Promise<unknown>): Promise<{ done: Row[]; failed: Failed[] }> {
  const limit = pLimit(AT_ONCE);
  const failed: Failed[] = [];
  const done: Row[] = [];
  const one = (row: Row) =>
    act(row.id).then(
      () => done.push(row),
      (fault: Error) => failed.push({ row, why: fault.message }),
    );
  await Promise.all(rows.map((row) => limit(() => one(row))));
  return { done, failed };
}

const NAMED = 5;
const counted = (rows: number, what: string) => `${rows} ${rows === 1 ? what.slice(0, -1) : what}`;

/** Take one or several off the Shelf, with one way back for all of them; those that could not be taken, or brought back, are named. */
export function useRemove(what: keyof typeof CALLS) {
  const queries = useQueryClient();
  const offerUndo = useUndoNotice();
  const each = async (rows: Row[], act: keyof (typeof CALLS)[typeof what], whenDone: (done: Row[]) => void): Promise<void> => {
    const { done, failed } = await withEach(rows, CALLS[what][act]);
    if (done.length) whenDone(done);
    const refreshed = queries.invalidateQueries({ queryKey: [what] });
    if (failed.length) tell(failed, act, whenDone);
    await refreshed;
  };
  const tell = (failed: Failed[], act: keyof (typeof CALLS)[typeof what], whenDone: (done: Row[]) => void) => {
    const lines = failed.slice(0, NAMED).map(({ row, why }) => `“${row.name}”: ${why}`);
    if (failed.length > NAMED) lines.push(`and ${failed.length - NAMED} more`);
    const again = () => each(failed.map(({ row }) => row), act, whenDone); // biome-ignore format: one thing
    const words = act === "remove" ? "deleted" : "restored";
    offerUndo(`${counted(failed.length, what)} could not be ${words}`, again, { label: "Try again", lines });
  };
  const removed = (gone: Row[]) => {
    const [only] = gone;
    const title = gone.length === 1 ? `“${only?.name}” was deleted` : `${gone.length} ${what} were deleted`;
    offerUndo(title, () => each(gone, "restore", () => {}));
  };
  return useMutation({ mutationFn: (rows: Row[]) => each(rows, "remove", removed) });
}
