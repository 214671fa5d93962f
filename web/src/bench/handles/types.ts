import type { Kind } from "../../api/client";
import type { Placed } from "../model/geometry";
import type { Settings } from "../model/piece";

/** What every handle gets: the step's kind and settings, where the picture lies, and how to change the settings. */
export interface HandleProps {
  kind: Kind;
  settings: Settings;
  placed: Placed;
  set: (settings: Settings, gesture: string) => void;
  dragging: (dragging: boolean) => void;
}
