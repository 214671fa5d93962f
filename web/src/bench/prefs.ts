import { create } from "zustand";
import { persist } from "zustand/middleware";

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
      open: { where: false, channels: true, blend: true, fine: false, said: false },
    }),
    { name: "caracol-bench", version: 1 },
  ),
);

export const prefer = (part: Partial<Prefs>): void => void usePrefs.setState(part);

export const unfold = (section: Section, open: boolean): void =>
  void usePrefs.setState((now) => ({ open: { ...now.open, [section]: open } }));
