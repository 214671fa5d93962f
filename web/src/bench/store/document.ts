import type { StateCreator } from "zustand";
import { begin, type Draft, type Edit, type History, record, redo, travel, undo } from "../model/edits";
import type { BenchState } from ".";

/** The piece that is worked on, and what of it is chosen. */
export interface DocumentSlice {
  pieceId: string | null;
  history: History;
  /** The layer whose trail is worked on. */
  layer: string | null;
  selected: string | null;
  /** True while a drag is going on: looks are drafts and nothing is saved. */
  dragging: boolean;
  edit: (edit: Edit) => void;
  undo: () => void;
  redo: () => void;
  travel: (by: number) => void;
}

const empty: Draft = { name: "", document: { caracol: 1, layers: [] } };

export const freshDocument = { selected: null, dragging: false };

export const documentSlice: StateCreator<BenchState, [], [], DocumentSlice> = (set) => ({
  pieceId: null,
  history: begin(empty),
  layer: null,
  ...freshDocument,
  // Steps belong to the layer that is worked on, unless an edit says otherwise.
  edit: (edit) => set((state) => ({ history: record(state.history, { layer: state.layer, ...edit } as Edit) })),
  undo: () => set((state) => ({ history: undo(state.history) })),
  redo: () => set((state) => ({ history: redo(state.history) })),
  travel: (by) => set((state) => ({ history: travel(state.history, by) })),
});
