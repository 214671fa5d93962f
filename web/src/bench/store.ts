import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import { begin, type Draft, type Edit, type History, record, redo, travel, undo } from "./model/edits";
import type { Point } from "./model/geometry";
import { layerOf, type PieceDocument } from "./model/piece";

export type Surround = "light" | "middle" | "dark";
export type Side = "step" | "export" | "versions" | "history";
/** What the stage is compared with: the original photo, the step before, or a version. */
export type Against = { kind: "original" } | { kind: "before" } | { kind: "version"; id: string; document: PieceDocument; name: string };
/** What is drawn on the picture with the pointer: shapes of a where. */
export type Tool = "rectangle" | "ellipse" | "polygon" | "stroke" | "erase" | "bar";

interface BenchState {
  pieceId: string | null;
  history: History;
  /** The layer whose trail is worked on. */
  layer: string | null;
  selected: string | null;
  /** True while a drag is going on: looks are drafts and nothing is saved. */
  dragging: boolean;
  zoom: number;
  pan: Point;
  /** The view turned for hand work, in turns. */
  viewTurn: number;
  surround: Surround;
  split: number | null;
  splitTurn: number;
  beside: boolean;
  against: Against;
  showOriginal: boolean;
  finderAt: number | null;
  addingLayer: boolean;
  bookOpen: boolean;
  /** The blend sheet is open. */
  blends: boolean;
  /** The layer that is shown alone, without the others. */
  solo: string | null;
  /** The where of the selected step or layer is edited on the picture; and the shape that is chosen in it. */
  whereOpen: boolean;
  whereShape: number | null;
  tool: Tool | null;
  brush: { radius: number; hardness: number };
  /** The setting that is dragged in the panel. */
  draggedSetting: string | null;
  /** The bar of a slices step that is chosen. */
  bar: number | null;
  /** The runs of a pixel sort are shown. */
  runsShown: boolean;
  /** The melt is running. */
  playing: boolean;
  /** The document whose picture is on the stage just now. */
  shownOf: PieceDocument | null;
  /** The keep area of the photo that is edited on the picture. */
  keepArea: number | null;
  rolling: boolean;
  side: Side;
  /** How the crop box is dragged. */
  crop: { ratio: boolean; centred: boolean };
  open: (id: string, history: History) => void;
  edit: (edit: Edit) => void;
  undo: () => void;
  redo: () => void;
  travel: (by: number) => void;
  patch: (part: Partial<BenchState>) => void;
}

const empty: Draft = { name: "", document: { caracol: 1, layers: [] } };
const fresh = {
  selected: null,
  dragging: false,
  zoom: 1,
  pan: { x: 0, y: 0 },
  viewTurn: 0,
  split: null,
  splitTurn: 0,
  beside: false,
  against: { kind: "original" } as Against,
  finderAt: null,
  addingLayer: false,
  bookOpen: false,
  blends: false,
  solo: null,
  whereOpen: false,
  whereShape: null,
  tool: null,
  draggedSetting: null,
  bar: null,
  runsShown: false,
  playing: false,
  shownOf: null,
  keepArea: null,
  rolling: false,
  side: "step" as Side,
};

export const useBench = create<BenchState>((set) => ({
  pieceId: null,
  history: begin(empty),
  layer: null,
  ...fresh,
  surround: "middle",
  showOriginal: false,
  brush: { radius: 0.12, hardness: 0.5 },
  crop: { ratio: false, centred: false },
  open: (id, history) => set({ pieceId: id, history, layer: layerOf(history.present.document).id, ...fresh }),
  // Steps belong to the layer that is worked on, unless an edit says otherwise.
  edit: (edit) => set((state) => ({ history: record(state.history, { layer: state.layer, ...edit } as Edit) })),
  undo: () => set((state) => ({ history: undo(state.history) })),
  redo: () => set((state) => ({ history: redo(state.history) })),
  travel: (by) => set((state) => ({ history: travel(state.history, by) })),
  // What is edited on the picture belongs to what is selected: choosing something else leaves it.
  patch: (part) =>
    set((state) =>
      "selected" in part && part.selected !== state.selected ? { whereOpen: false, whereShape: null, tool: null, ...part } : part,
    ),
}));

/** Parts of the Bench by their names: whoever asks for them is drawn again when one of them changes, and not when others do. */
export function useBenchPart<Name extends keyof BenchState>(...names: Name[]): Pick<BenchState, Name> {
  return useBench(useShallow((state) => Object.fromEntries(names.map((name) => [name, state[name]])) as Pick<BenchState, Name>));
}
