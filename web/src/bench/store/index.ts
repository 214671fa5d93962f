import { create } from "zustand";
import { useShallow } from "zustand/react/shallow";
import type { History } from "../model/edits";
import { layerOf, type PieceDocument } from "../model/piece";
import { type DocumentSlice, documentSlice, freshDocument } from "./document";
import { freshOverlay, type Overlay, type OverlaySlice } from "./overlay";
import { freshTools, type ToolsSlice, toolsSlice } from "./tools";
import { freshView, type ViewSlice, viewSlice } from "./view";

export type { Overlay } from "./overlay";
export type { Tool } from "./tools";
export type { Against, Side } from "./view";

export interface BenchState extends DocumentSlice, ViewSlice, ToolsSlice, OverlaySlice {
  open: (id: string, history: History) => void;
  patch: (part: Partial<BenchState>) => void;
  /** Lay one over the stage, or put it away where it lies there. */
  toggle: (kind: Overlay["kind"], at?: number) => void;
}

export const useBench = create<BenchState>((set, get, api) => ({
  ...documentSlice(set, get, api),
  ...viewSlice(),
  ...toolsSlice(),
  ...freshOverlay,
  open: (id, history) =>
    set({
      pieceId: id,
      history,
      rested: history.present.document,
      layer: layerOf(history.present.document).id,
      ...freshDocument,
      ...freshView,
      ...freshTools,
      touch: { ...get().touch, anchor: null, kept: null },
      ...freshOverlay,
    }),
  // What is edited on the picture belongs to what is selected: choosing something else leaves it.
  patch: (part) =>
    set((state) => {
      const other = (["selected", "layer"] as const).some((name) => name in part && part[name] !== state[name]);
      return other
        ? {
            whereOpen: false,
            whereShape: null,
            stroke: null,
            picking: false,
            wording: null,
            pick: null,
            boxing: false,
            tool: null,
            region: null,
            regionAt: null,
            ...part,
          }
        : part;
    }),
  toggle: (kind, at = 0) =>
    set(({ overlay }) => {
      const lies = overlay?.kind === kind && (overlay.kind !== "finder" || overlay.at === at);
      return { overlay: lies ? null : kind === "finder" ? { kind, at } : { kind } };
    }),
}));

/** Parts of the Bench by their names: whoever asks for them is drawn again when one of them changes, and not when others do. */
export function useBenchPart<Name extends keyof BenchState>(...names: Name[]): Pick<BenchState, Name> {
  return useBench(useShallow((state) => Object.fromEntries(names.map((name) => [name, state[name]])) as Pick<BenchState, Name>));
}

/** The piece's document as it is now. */
export const useDocument = (): PieceDocument => useBench((state) => state.history.present.document);

useBench.subscribe(({ dragging, rested, history }) => {
  if (!dragging && rested !== history.present.document) useBench.setState({ rested: history.present.document });
});

/** The piece's document as it was when the hand last rested: what need not follow a drag is not drawn again for it. */
export const useRestedDocument = (): PieceDocument => useBench((state) => (state.dragging ? state.rested : state.history.present.document));
