import type { Where } from "../model/piece";
import { NEW_TOUCH, type Touch } from "../model/touch";

/** What is drawn on the picture with the pointer: shapes of a where, bars. */
export type Tool = "rectangle" | "ellipse" | "polygon" | "stroke" | "erase" | "bar" | "touch";

/** A colour that is taken from the picture: by which control, what for, which picture is shown meanwhile, and who gets it. */
export interface Pick {
  by: string;
  title: string;
  view: "finished" | "before";
  take: (colour: string) => void;
}

/** What the hand holds on the picture. */
export interface ToolsSlice {
  tool: Tool | null;
  brush: { radius: number; hardness: number };
  /** The where of the selected step or layer is edited on the picture; and the shape that is chosen in it. */
  whereOpen: boolean;
  whereShape: number | null;
  /** The keep area of the photo that is edited on the picture. */
  keepArea: number | null;
  /** The bar of a slices step that is chosen. */
  bar: number | null;
  /** Where a step that is not there yet will act, and at which place of the trail: drawn first, then the step is chosen. */
  region: Where | null;
  regionAt: number | null;
  /** What the next stroke of a touch-up is made with; the stroke that is chosen; whether the next press takes a source or a colour. */
  touch: Touch;
  stroke: number | null;
  picking: boolean;
  /** The layer whose words are written on the picture. */
  wording: string | null;
  /** Places that betray a stroke are pointed out. */
  doublesShown: boolean;
  /** A colour is being taken from the picture. */
  pick: Pick | null;
  /** The setting that is dragged in the panel. */
  draggedSetting: string | null;
  /** How the crop box is dragged. */
  crop: { ratio: boolean; centred: boolean };
}

export const freshTools = {
  tool: null,
  whereOpen: false,
  whereShape: null,
  keepArea: null,
  bar: null,
  stroke: null,
  picking: false,
  wording: null,
  doublesShown: false,
  pick: null,
  draggedSetting: null,
  region: null,
  regionAt: null,
};

export const toolsSlice = (): ToolsSlice => ({
  ...freshTools,
  touch: NEW_TOUCH,
  brush: { radius: 0.12, hardness: 0.5 },
  crop: { ratio: false, centred: false },
});
