import type { StateCreator } from "zustand";
import { begin, type Draft, type Edit, type History, recorded, redo, travel, undo } from "../model/edits";
import type { PieceDocument } from "../model/piece";
import { NO_RULES, type Rules } from "../model/rules";
import type { BenchState } from ".";

/** The piece that is worked on, and what of it is chosen. */
export interface DocumentSlice {
  pieceId: string | null;
  history: History;
  /** The layer whose trail is worked on. */
  layer: string | null;
  selected: string | null;
  /** The document as it was when the hand last rested. */
  rested: PieceDocument;
  /** True while a drag is going on: looks are drafts and nothing is saved. */
  dragging: boolean;
  /** Why the last edit was not made, or what was repaired with it. */
  said: { words: string } | null;
  /** What the core allows a document to be. */
  rules: Rules;
  /** Make an edit as the core allows it; false where it is refused, which `said` says why. */
  edit: (edit: Edit) => boolean;
  undo: () => void;
  redo: () => void;
  travel: (by: number) => void;
}

const empty: Draft = { name: "", document: { caracol: 3, layers: [] } };

export const freshDocument = { selected: null, dragging: false };

export const documentSlice: StateCreator<BenchState, [], [], DocumentSlice> = (set, get) => ({
  pieceId: null,
  history: begin(empty),
  said: null,
  rules: NO_RULES,
  layer: null,
  rested: empty.document,
  ...freshDocument,
  // Steps belong to the layer that is worked on, unless an edit says otherwise.
  edit: (edit) => {
    const { history, layer, rules, shape } = get();
    const { history: next, made, said } = recorded(history, { layer, ...edit } as Edit, rules, shape);
    set({ history: next, said: said === null ? null : { words: said } });
    return made;
  },
  undo: () => set((state) => ({ history: undo(state.history), said: null })),
  redo: () => set((state) => ({ history: redo(state.history) })),
  travel: (by) => set((state) => ({ history: travel(state.history, by) })),
});
