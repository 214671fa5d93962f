import type { ComponentType } from "react";
import type { Kind, Setting } from "../../api/client";
import { changedAtRest, changedWhileRunning, inForce } from "../model/melt";
import type { Settings, Step } from "../model/piece";
import { effective, effectiveNumber } from "../model/settings";
import { CurvesTools } from "../tones/CurvesTools";
import { HistogramOnly } from "../tones/HistogramOnly";
import { ToneTools } from "../tones/ToneTools";
import { BelongTools } from "./BelongTools";
import { CropTools } from "./CropTools";
import { FormulaTools } from "./FormulaTools";
import { MeltTools } from "./MeltTools";
import { CentreTools, RimTools, SecondCopy } from "./MendTools";
import { SeamTools } from "./SeamTools";
import { StretchesTool } from "./StretchesTool";
import { TouchTools } from "./TouchTools";

export interface ToolProps {
  step: Step;
  kind: Kind;
}

/** What a kind of step has in its panel besides its settings. */
interface KindTools {
  /** In place of the starting points. */
  Starts?: ComponentType<ToolProps>;
  /** Above the settings, and below them. */
  Above?: ComponentType<ToolProps>;
  Below?: ComponentType<ToolProps>;
  /** Whether a setting is left out of the panel. */
  hides?: (setting: Setting, settings: Settings) => boolean;
  /** What panel and handles show, where that is not what is stored. */
  shown?: (step: Step, kind: Kind) => Settings;
  /** What a change of what is shown changes of what is stored. */
  change?: (step: Step, kind: Kind, change: Settings, playing: boolean) => Settings;
}

const rounds = (step: Step, kind: Kind) => effectiveNumber(kind, step.settings, "rounds");

const TOOLS: Record<string, KindTools> = {
  "close-seam": { Above: SeamTools, hides: (setting) => setting.widget === "pulls" },
  centre: { Above: CentreTools },
  // Light that is found is told above; a number of its own it has only when it was set.
  belong: { Above: BelongTools, hides: (setting, settings) => setting.name === "light" && typeof settings.light !== "number" },
  tone: { Above: ToneTools },
  curves: { Above: CurvesTools, hides: (setting) => setting.widget === "tones" },
  // A part of the picture is asked for: the level is found again.
  threshold: { Above: HistogramOnly, change: (_step, _kind, change) => ("light_share" in change ? { ...change, level: null } : change) },
  "gradient-map": { Above: HistogramOnly },
  rim: { Below: RimTools },
  ring: { Below: SecondCopy },
  crop: { Below: CropTools },
  "touch-up": { Starts: TouchTools, hides: () => true },
  // Tints of one's own say how many copies there are, and their hues.
  ghosts: { hides: (setting, settings) => Boolean(settings.tints) && ["copies", "hue"].includes(setting.name) },
  formula: { Starts: FormulaTools, change: (step, kind, change) => renamedPlaces(step.settings, kind, change) },
  "pixel-sort": { Above: StretchesTool },
  // Bars that are kept are drawn again with their own button.
  slices: { hides: (setting, settings) => setting.widget === "seed" && Boolean(settings.bars) },
  melt: {
    Above: MeltTools,
    shown: (step, kind) => inForce(step.settings, rounds(step, kind)),
    change: (step, kind, change, playing) => (playing ? changedWhileRunning : changedAtRest)(step.settings, rounds(step, kind), change),
  },
};

/** Lines that leave everything where it is do so in every system: they take its names for a place when the system changes. */
function renamedPlaces(settings: Settings, kind: Kind, change: Settings): Settings {
  const places: Record<string, [string, string]> = { flat: ["x", "y"], polar: ["rad", "ang"] };
  const before = places[String(effective(kind, settings, "system"))];
  const after = places[String(change.system)];
  const isBlank = before && effective(kind, settings, "first") === before[0] && effective(kind, settings, "second") === before[1];
  return after && isBlank ? { ...change, first: after[0], second: after[1] } : change;
}

const NONE: KindTools = {};

/** The tools of a kind, by its key; most have none. */
export const toolsOf = (kind: Kind): KindTools => TOOLS[kind.key] ?? NONE;

/** What panel and handles show of a step. */
export const shownSettings = (step: Step, kind: Kind): Settings => toolsOf(kind).shown?.(step, kind) ?? step.settings;

/** What a change from the panel or from a handle means. */
export const changeOf = (step: Step, kind: Kind, change: Settings, playing: boolean): Settings =>
  toolsOf(kind).change?.(step, kind, change, playing) ?? change;
