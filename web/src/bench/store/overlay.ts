import type { PieceDocument } from "../model/piece";

/** What lies over the stage, one at a time: the finder (for which place in the trail), a new layer, another photo, the formulas, the blend modes, the roll. */
export type Overlay =
  | { kind: "finder"; at: number }
  | { kind: "add-layer" | "exchange" | "book" }
  /** Which of the pictures is looked at large. */
  | { kind: "blends" | "roll"; large?: number };

export interface OverlaySlice {
  overlay: Overlay | null;
  /** What the finder tries on the large picture. */
  tried: { document: PieceDocument; upto: number; name: string } | null;
  /** The list of keys is open. */
  keysShown: boolean;
  /** Where a new layer is offered to lie. */
  addSide: "above" | "below";
}

export const freshOverlay = { overlay: null, tried: null as OverlaySlice["tried"], keysShown: false, addSide: "above" as const };
