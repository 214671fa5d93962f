import type { ComponentType } from "react";
import { CropHandle } from "./CropHandle";
import { LevelHandle } from "./LevelHandle";
import { RimHandle } from "./RimHandle";
import { RingHandle } from "./RingHandle";
import { SeamBandHandle } from "./SeamBandHandle";
import { ShiftHandle } from "./ShiftHandle";
import { TurnHandle } from "./TurnHandle";
import type { HandleProps } from "./types";

/** The handles by the names the catalogue uses. */
export const HANDLES: Record<string, ComponentType<HandleProps>> = {
  "crop-box": CropHandle,
  "level-line": LevelHandle,
  "turn-arc": TurnHandle,
  ring: RingHandle,
  rim: RimHandle,
  "seam-band": SeamBandHandle,
  "shift-arrow": ShiftHandle,
};
