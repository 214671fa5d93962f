import type { ComponentType } from "react";
import type { Handle } from "../../api/client";
import { BarsHandle } from "./BarsHandle";
import { BelongHandle } from "./BelongHandle";
import { CentreDiscHandle } from "./CentreDiscHandle";
import { CentreHandle, CentreReachHandle } from "./CentreReachHandle";
import { CropHandle } from "./CropHandle";
import { DisplaceHandle } from "./DisplaceHandle";
import { FogHandle } from "./FogHandle";
import { FormulaRayHandle } from "./FormulaRayHandle";
import { LevelHandle } from "./LevelHandle";
import { LightHandle } from "./LightHandle";
import { PinchHandle } from "./PinchHandle";
import { PlaceHandle } from "./PlaceHandle";
import { PlateHandle } from "./PlateHandle";
import { RimHandle } from "./RimHandle";
import { RingHandle } from "./RingHandle";
import { RowCurveHandle } from "./RowCurveHandle";
import { SeamBandHandle } from "./SeamBandHandle";
import { SectorHandle } from "./SectorHandle";
import { ShadowHandle } from "./ShadowHandle";
import { ShiftHandle } from "./ShiftHandle";
import { SpiralHandle } from "./SpiralHandle";
import { TouchHandle } from "./TouchHandle";
import { TurnHandle } from "./TurnHandle";
import { TwirlHandle } from "./TwirlHandle";
import type { HandleProps } from "./types";
import { WaveHandle } from "./WaveHandle";
import { GhostHandle, MeltWayHandle, SortWayHandle } from "./WayHandles";

/** The handles by the names the catalogue uses. */
export const HANDLES: Record<Handle, ComponentType<HandleProps>> = {
  "crop-box": CropHandle,
  "level-line": LevelHandle,
  "turn-arc": TurnHandle,
  ring: RingHandle,
  rim: RimHandle,
  "seam-band": SeamBandHandle,
  "shift-arrow": ShiftHandle,
  centre: CentreHandle,
  "centre-reach": CentreReachHandle,
  "twirl-arc": TwirlHandle,
  "pinch-pull": PinchHandle,
  "sector-ray": SectorHandle,
  wave: WaveHandle,
  "place-corners": PlaceHandle,
  "row-curve": RowCurveHandle,
  "displace-arrow": DisplaceHandle,
  "formula-ray": FormulaRayHandle,
  spiral: SpiralHandle,
  "plate-arrows": PlateHandle,
  bars: BarsHandle,
  "sort-way": SortWayHandle,
  "melt-way": MeltWayHandle,
  "ghost-arrow": GhostHandle,
  strokes: TouchHandle,
  "centre-disc": CentreDiscHandle,
  light: LightHandle,
  fog: FogHandle,
  shadow: ShadowHandle,
  "belong-light": BelongHandle,
};
