import { create } from "zustand";
import { persist } from "zustand/middleware";
import type { Choice } from "./model/find";

export type AreaTool = "rectangle" | "ellipse" | "polygon" | "stroke";
export type Surround = "light" | "middle" | "dark";
/** Parts of the panel that are folded or open. */
export type Section = "where" | "channels" | "blend" | "fine" | "said";

/** How this artist's Bench is set up. It belongs to no piece, and is kept in this browser. */
interface Prefs {
  surround: Surround;
  /** Heights and widths in pixels of the screen. */
  trailHeight: number;
  panelWidth: number;
  barFolded: boolean;
  open: Record<Section, boolean>;
  /** Colours that were chosen or picked, the last first. */
  recentColours?: string[];
  /** Names of what stands first in the finder: chosen, and the last that were taken. */
  favourites: string[];
  lately: string[];
  /** What parts of a picture were drawn with last. */
  areaTool: AreaTool;
}

export const TRAIL = { usual: 156, least: 64, most: 420 };
export const PANEL = { usual: 304, least: 264, most: 520 };
export const NEXT: Record<Surround, Surround> = { light: "middle", middle: "dark", dark: "light" };

export const usePrefs = create<Prefs>()(
  persist(
    (): Prefs => ({
      surround: "middle",
      trailHeight: TRAIL.usual,
      panelWidth: PANEL.usual,
      barFolded: false,
      favourites: [],
      lately: [],
      areaTool: "polygon",
      open: { where: false, channels: true, blend: true, fine: false, said: false },
    }),
    { name: "caracol-bench", version: 1 },
  ),
);

export const prefer = (part: Partial<Prefs>): void => void usePrefs.setState(part);

export const unfold = (section: Section, open: boolean): void =>
  void usePrefs.setState((now) => ({ open: { ...now.open, [section]: open } }));

/** What a choice of the finder is remembered by. */
export const nameOf = ({ name, note }: Pick<Choice, "name" | "note">): string => `${note} / ${name}`;

const LAST = 10;

/** Remember that a choice was taken, the last first. */
export const used = (choice: Choice): void => {
  const name = nameOf(choice);
  prefer({ lately: [name, ...usePrefs.getState().lately.filter((one) => one !== name)].slice(0, LAST) });
};

/** Whether a tool draws a part of the picture, and so is kept for the next. */
export const isAreaTool = (tool: string): tool is AreaTool => ["rectangle", "ellipse", "polygon", "stroke"].includes(tool);

/** Put a choice among the favourites, or take it out. */
export const favour = (name: string): void => {
  const { favourites } = usePrefs.getState();
  prefer({ favourites: favourites.includes(name) ? favourites.filter((one) => one !== name) : [...favourites, name] });
};
