/** What lies over the stage, one at a time: the finder (for which place in the trail), a new layer, another photo, the formulas, the blend modes, the roll. */
export type Overlay = { kind: "finder"; at: number } | { kind: "add-layer" | "exchange" | "book" | "blends" | "roll" };

export interface OverlaySlice {
  overlay: Overlay | null;
  /** Where a new layer is offered to lie. */
  addSide: "above" | "below";
}

export const freshOverlay = { overlay: null, addSide: "above" as const };
