import { flushSync } from "react-dom";
import { copySteps, doAgain, pasteSteps } from "../clipboard";
import { stepsOf } from "../model/piece";
import { NEXT, prefer, usePrefs } from "../prefs";
import { lastAgain } from "../recipes/using";
import { useBench } from "../store";
import { type Side, zoomTo, zoomToPixels } from "../store/view";
import { focusPanel, focusPicture } from "./picture";

/** What a key shows as long as it is held. */
export type Held = "showOriginal" | "bare" | "picking" | "clippedShown";

export interface Key {
  /** How the key map writes it. */
  shown: string;
  what: string;
  /** The combinations that it is, as `combination` names them; none where it is a gesture or belongs to what has the focus. */
  keys?: string[];
  /** False where it is left to the browser. */
  act?: (tell: (words: string) => void) => unknown;
  held?: Held;
}

const now = useBench.getState;
const { patch } = now();

function selectBy(way: 1 | -1) {
  const { history, selected, layer } = now();
  const steps = stepsOf(history.present.document, layer);
  const index = steps.findIndex((step) => step.id === selected);
  const next = steps[index < 0 ? (way > 0 ? 0 : steps.length - 1) : index + way];
  if (next) patch({ selected: next.id, side: "step" });
}

function onSelected(act: (id: string, on: boolean) => void) {
  const { history, selected, layer } = now();
  const step = stepsOf(history.present.document, layer).find((one) => one.id === selected);
  if (step) act(step.id, step.on !== false);
}

function finder() {
  const { history, selected, layer, overlay, toggle } = now();
  const steps = stepsOf(history.present.document, layer);
  const index = steps.findIndex((step) => step.id === selected);
  if (overlay?.kind === "finder") patch({ overlay: null });
  else toggle("finder", index < 0 ? steps.length : index + 1);
}

function brush(size: number, hardness: number) {
  const { touch } = now();
  patch({
    touch: {
      ...touch,
      radius: Number(Math.min(0.6, Math.max(0.005, touch.radius * size)).toFixed(4)),
      hardness: Number(Math.min(1, Math.max(0, touch.hardness + hardness)).toFixed(2)),
    },
  });
}

/** Put away what lies over the picture, what the hand holds and what stands beside it. */
export function putAway() {
  const { overlay, side } = now();
  const large = overlay?.kind === "roll" || overlay?.kind === "blends" ? overlay.large : undefined;
  if (overlay && large !== undefined) {
    patch({ overlay: { kind: overlay.kind as "roll", large: undefined } });
    return;
  }
  patch({
    overlay: null,
    tool: null,
    stroke: null,
    picking: false,
    wording: null,
    pick: null,
    boxing: false,
    region: null,
    regionAt: null,
    side: overlay ? side : "step",
  });
  focusPicture();
}

const zoomBy = (factor: number) => patch(zoomTo(factor * now().zoom, now()));
/** Open a panel and go into it, or close it and go back to the picture. */
const sideBy = (side: Side) => {
  const open = now().side !== side;
  flushSync(() => patch({ side: open ? side : "step" }));
  if (open) focusPanel();
  else focusPicture();
};

/** The Bench's keys and gestures: bound as they stand here, and shown as they stand here. */
export const KEYS: Record<string, Key[]> = {
  "Undo, copy, repeat": [
    { shown: "Ctrl + Z", what: "Undo", keys: ["mod+z"], act: () => now().undo() },
    { shown: "Ctrl + Shift + Z", what: "Redo", keys: ["mod+shift+z", "mod+y"], act: () => now().redo() },
    { shown: "Ctrl + C", what: "Copy the selected step, or all steps", keys: ["mod+c"], act: copySteps },
    { shown: "Ctrl + V", what: "Paste after the selected step", keys: ["mod+v"], act: () => pasteSteps() },
    { shown: "R", what: "Repeat the last step here", keys: ["r"], act: doAgain },
    { shown: "B", what: "Repeat the last recipe on this piece's photos", keys: ["b"], act: (tell) => void lastAgain(tell) },
  ],
  Steps: [
    { shown: "A", what: "Add a step after the selected one", keys: ["a"], act: finder },
    { shown: ",", what: "Select the step before", keys: [","], act: () => selectBy(-1) },
    { shown: ".", what: "Select the step after", keys: ["."], act: () => selectBy(1) },
    { shown: "F", what: "Show the whole piece", keys: ["f"], act: () => patch({ selected: null, side: "step" }) },
    {
      shown: "X",
      what: "Switch the selected step on or off",
      keys: ["x"],
      act: () => onSelected((step, on) => now().edit({ type: "switch", step, on: !on })),
    },
    {
      shown: "Delete",
      what: "Remove the selected step",
      keys: ["delete"],
      act: () => onSelected((step) => now().edit({ type: "remove", step }) && patch({ selected: null })),
    },
    { shown: "L", what: "Roll: twelve variants", keys: ["l"], act: () => now().toggle("roll") },
  ],
  Go: [
    { shown: "E", what: "Export", keys: ["e"], act: () => sideBy("export") },
    { shown: "V", what: "Versions", keys: ["v"], act: () => sideBy("versions") },
    { shown: "?", what: "This list", keys: ["?"], act: () => patch({ keysShown: !now().keysShown }) },
    {
      shown: "Escape",
      what: "Back to the picture; closes everything else",
      keys: ["escape"],
      act: putAway,
    },
  ],
  See: [
    { shown: "O (hold)", what: "The original photo", keys: ["o"], held: "showOriginal" },
    { shown: "H (hold)", what: "The picture without handles, outlines and tints", keys: ["h"], held: "bare" },
    {
      shown: "K (hold)",
      what: "Tones the selected step loses: blue turns black, red turns white",
      keys: ["k"],
      held: "clippedShown",
    },
    {
      shown: "S",
      what: "Split line between original and result",
      keys: ["s"],
      act: () => patch({ split: now().split === null ? 0.5 : null, beside: false }),
    },
    { shown: "C", what: "Side by side", keys: ["c"], act: () => patch({ beside: !now().beside, split: null }) },
    {
      shown: "P",
      what: "One channel of the picture, or all",
      keys: ["p"],
      act: () => patch({ plate: now().plate ? null : now().lastPlate }),
    },
    { shown: "G", what: "Surround: light, middle, dark", keys: ["g"], act: () => prefer({ surround: NEXT[usePrefs.getState().surround] }) },
    { shown: "0", what: "Fit the picture", keys: ["0"], act: () => patch({ zoom: 1, pan: { x: 0, y: 0 }, viewTurn: 0 }) },
    { shown: "1", what: "One screen pixel for each exported pixel", keys: ["1"], act: () => patch(zoomToPixels(1, now())) },
    { shown: "2", what: "Two screen pixels for each exported pixel", keys: ["2"], act: () => patch(zoomToPixels(2, now())) },
    { shown: "+", what: "Zoom in (also the wheel)", keys: ["+", "="], act: () => zoomBy(1.25) },
    { shown: "−", what: "Zoom out", keys: ["-"], act: () => zoomBy(0.8) },
    { shown: "[", what: "Turn the view left", keys: ["["], act: () => patch({ viewTurn: now().viewTurn - 1 / 24 }) },
    { shown: "]", what: "Turn the view right", keys: ["]"], act: () => patch({ viewTurn: now().viewTurn + 1 / 24 }) },
  ],
  "Handles and settings": [
    { shown: "Arrows", what: "Nudge the handle or setting that has the focus; Shift ten times as far" },
    { shown: "Enter on a slider", what: "Type its number" },
    { shown: "Shift (drag)", what: "Snap: rays to 15°, lengths and places to a grid, the centre to the middle; keep a crop's ratio" },
    { shown: "Alt (drag)", what: "Crop about the centre; move a bar up and down too" },
    { shown: "Drag a name", what: "Change its number; with Shift ten times finer" },
    { shown: "Double click", what: "Reset a handle or a setting" },
  ],
  Paint: [
    { shown: "N", what: "Brush smaller", keys: ["n"], act: () => brush(1 / 1.15, 0) },
    { shown: "M", what: "Brush larger", keys: ["m"], act: () => brush(1.15, 0) },
    { shown: "Shift + N", what: "Brush softer", keys: ["shift+n"], act: () => brush(1, -0.1) },
    { shown: "Shift + M", what: "Brush harder", keys: ["shift+m"], act: () => brush(1, 0.1) },
    { shown: "Q (hold)", what: "Click on the picture to choose a source or a colour there", keys: ["q"], held: "picking" },
  ],
};
