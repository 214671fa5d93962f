import { create } from "zustand";
import type { SavedPiece } from "../api/client";
import { begin, type Draft, type Edit, type History, record, redo, undo } from "./model/edits";
import type { Point } from "./model/geometry";
import type { PieceDocument } from "./model/piece";

export type Surround = "light" | "middle" | "dark";

interface BenchState {
  pieceId: string | null;
  revision: number;
  history: History;
  /** What the server has. */
  saved: Draft;
  selected: string | null;
  /** True while a drag is going on: looks are drafts and nothing is saved. */
  dragging: boolean;
  zoom: number;
  pan: Point;
  surround: Surround;
  split: number | null;
  showOriginal: boolean;
  finderAt: number | null;
  side: "step" | "export";
  open: (piece: SavedPiece) => void;
  edit: (edit: Edit) => void;
  undo: () => void;
  redo: () => void;
  savedAs: (revision: number, saved: Draft) => void;
  patch: (
    part: Partial<Pick<BenchState, "selected" | "dragging" | "zoom" | "pan" | "surround" | "split" | "showOriginal" | "finderAt" | "side">>,
  ) => void;
}

const empty: Draft = { name: "", document: { caracol: 1, layers: [] } };
const fit = { zoom: 1, pan: { x: 0, y: 0 } };

export const useBench = create<BenchState>((set) => ({
  pieceId: null,
  revision: 0,
  history: begin(empty),
  saved: empty,
  selected: null,
  dragging: false,
  ...fit,
  surround: "middle",
  split: null,
  showOriginal: false,
  finderAt: null,
  side: "step",
  open: (piece) => {
    const draft: Draft = { name: piece.name, document: piece.document as unknown as PieceDocument };
    set({
      pieceId: piece.id,
      revision: piece.revision,
      history: begin(draft),
      saved: draft,
      selected: null,
      dragging: false,
      split: null,
      finderAt: null,
      side: "step",
      ...fit,
    });
  },
  edit: (edit) => set((state) => ({ history: record(state.history, edit) })),
  undo: () => set((state) => ({ history: undo(state.history) })),
  redo: () => set((state) => ({ history: redo(state.history) })),
  savedAs: (revision, saved) => set({ revision, saved }),
  patch: (part) => set(part),
}));
