import type { ExportOptions } from "../../api/client";
import { USUAL } from "../model/delivery";
import type { Point } from "../model/geometry";
import type { PieceDocument } from "../model/piece";

export type Side = "step" | "export" | "versions" | "history" | "recipes";
/** What the stage is compared with: the original photo, the step before, or a version. */
export type Against = { kind: "original" } | { kind: "before" } | { kind: "version"; id: string; document: PieceDocument; name: string };

export const PLATES = ["red", "green", "blue", "light"] as const;
/** One plate of the picture: its values as grey, or in its own colour. */
export interface Plate {
  of: (typeof PLATES)[number];
  coloured: boolean;
}

/** How the piece is looked at. */
export interface ViewSlice {
  /** How large it is seen; 1 fits the stage. */
  zoom: number;
  /** Pixels of the screen to a pixel of the delivery where the picture fits the stage; null before it is there. */
  fitScale: number | null;
  /** The piece's ratio as it is seen; null before it is there. */
  shape: number | null;
  /** What is delivered. */
  delivery: ExportOptions;
  pan: Point;
  /** The view turned for hand work, in turns. */
  viewTurn: number;
  split: number | null;
  splitTurn: number;
  beside: boolean;
  against: Against;
  showOriginal: boolean;
  /** Nothing is drawn on the picture. */
  bare: boolean;
  /** The layer that is shown alone, without the others. */
  solo: string | null;
  /** The join of left and right is shown in the middle of the picture while it is closed. */
  joinShown: boolean;
  /** The stretches of a pixel sort are shown. */
  stretchesShown: boolean;
  /** Where the step loses tones is shown. */
  clippedShown: boolean;
  /** The box of the piece that is delivered is being set on the picture. */
  boxing: boolean;
  /** The ratio that its sides keep; null where they are free. */
  boxRatio: number | null;
  /** One plate is shown in place of all; and which one a key shows again. */
  plate: Plate | null;
  lastPlate: Plate;
  /** The melt is running. */
  playing: boolean;
  /** The document whose picture is on the stage just now. */
  shownOf: PieceDocument | null;
  /** Where the picture would be soft in a delivery of this size is shown; null for nowhere. */
  softShown: number | null;
  /** What stands beside the stage. */
  side: Side;
}

/** How a piece is looked at first. */
export const freshView = {
  zoom: 1,
  fitScale: null,
  shape: null as number | null,
  pan: { x: 0, y: 0 },
  viewTurn: 0,
  split: null,
  splitTurn: 0,
  beside: false,
  against: { kind: "original" } as Against,
  solo: null,
  joinShown: false,
  stretchesShown: false,
  clippedShown: false,
  boxing: false,
  boxRatio: null as number | null,
  plate: null,
  lastPlate: { of: "light", coloured: false } as Plate,
  playing: false,
  shownOf: null,
  softShown: null as number | null,
  side: "step" as Side,
};

const CLOSEST = 12;
const FARTHEST = 0.2;

/** A zoom that is not too far or too close: four pixels of the screen to one of the delivery can always be seen. */
export const zoomed = (zoom: number, fitScale: number | null): number =>
  Math.min(Math.max(CLOSEST, fitScale ? 4 / fitScale : 0), Math.max(FARTHEST, zoom));

/** How large the picture is seen, in words: against the size at which all of it fits. */
export const zoomWords = (zoom: number): string => (zoom === 1 ? "fits" : `× ${zoom.toFixed(2)}`);

/** The view zoomed about the stage's middle. */
export function zoomTo(zoom: number, view: Pick<ViewSlice, "zoom" | "pan" | "fitScale">): Pick<ViewSlice, "zoom" | "pan"> {
  const next = zoomed(zoom, view.fitScale);
  const k = next / view.zoom;
  return { zoom: next, pan: { x: view.pan.x * k, y: view.pan.y * k } };
}

/** The view in which a pixel of the delivery is `pixels` of the screen wide. */
export const zoomToPixels = (pixels: number, view: Pick<ViewSlice, "zoom" | "pan" | "fitScale">): Pick<ViewSlice, "zoom" | "pan"> =>
  zoomTo(view.fitScale ? pixels / view.fitScale : 1, view);

export const viewSlice = (): ViewSlice => ({ ...freshView, delivery: USUAL, showOriginal: false, bare: false });
