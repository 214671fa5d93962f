import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
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
    remove: (id: string) => take(api.DELETE("/api/photos/{photo_id}", { params: { path: { photo_id: id } } })),
    restore: (id: string) => take(api.POST("/api/photos/{photo_id}/restore", { params: { path: { photo_id: id } } })),
  },
  pieces: {
    remove: (id: string) => take(api.DELETE("/api/pieces/{piece_id}", { params: { path: { piece_id: id } } })),
    restore: (id: string) => take(api.POST("/api/pieces/{piece_id}/restore", { params: { path: { piece_id: id } } })),
  },
};

/** Do the same with every row; those that it could not be done with are named. */
async function withEach(rows: Row[], act: (id: string) => Promise<unknown>): Promise<Row[]> {
  const limit = pLimit(AT_ONCE);
  const faults: string[] = [];
  const done: Row[] = [];
  const one = (row: Row) =>
    act(row.id).then(
      () => done.push(row),
      (fault: Error) => faults.push(`${row.name}: ${fault.message}`),
    );
  await Promise.all(rows.map((row) => limit(() => one(row))));
  if (!done.length && faults[0]) throw new Error(faults[0]);
  return done;
}

/** Take one or several off the Shelf, with one way back for all of them. */
export function useRemove(what: keyof typeof CALLS) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const offerUndo = useUndoNotice();
  const refresh = () => queries.invalidateQueries({ queryKey: [what] });
  return useMutation({
    mutationFn: (rows: Row[]) => withEach(rows, CALLS[what].remove),
    onSuccess: (gone) => {
      const [only] = gone;
      const title = gone.length === 1 ? `“${only?.name}” was deleted` : `${gone.length} ${what} were deleted`;
      offerUndo(title, () => withEach(gone, CALLS[what].restore).then(refresh));
    },
    onSettled: refresh,
    onError: (fault: Error) => void message.error(fault.message),
  });
}
