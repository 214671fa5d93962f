import type { Point } from "../model/geometry";
import type { PieceDocument } from "../model/piece";

export type Surround = "light" | "middle" | "dark";
export type Side = "step" | "export" | "versions" | "history";
/** What the stage is compared with: the original photo, the step before, or a version. */
export type Against = { kind: "original" } | { kind: "before" } | { kind: "version"; id: string; document: PieceDocument; name: string };

/** How the piece is looked at. */
export interface ViewSlice {
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
  /** The layer that is shown alone, without the others. */
  solo: string | null;
  /** The runs of a pixel sort are shown. */
  runsShown: boolean;
  /** The melt is running. */
  playing: boolean;
  /** The document whose picture is on the stage just now. */
  shownOf: PieceDocument | null;
  /** What stands beside the stage. */
  side: Side;
}

/** How a piece is looked at first. */
export const freshView = {
  zoom: 1,
  pan: { x: 0, y: 0 },
  viewTurn: 0,
  split: null,
  splitTurn: 0,
  beside: false,
  against: { kind: "original" } as Against,
  solo: null,
  runsShown: false,
  playing: false,
  shownOf: null,
  side: "step" as Side,
};

export const viewSlice = (): ViewSlice => ({ ...freshView, surround: "middle", showOriginal: false });
