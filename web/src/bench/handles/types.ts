import type { Kind } from "../../api/client";
import type { DrawnFor } from "../model/edits";
import type { Placed } from "../model/geometry";
import type { Settings } from "../model/piece";

/** What every handle gets: the step's kind and settings, where the picture lies, and how to change the settings. */
export interface HandleProps {
  kind: Kind;
  settings: Settings;
  placed: Placed;
  /** `drawnFor`: what lists that the core drew were drawn for, where the change is made from one. */
  set: (settings: Settings, gesture: string, drawnFor?: DrawnFor) => void;
  dragging: (dragging: boolean) => void;
}
