import { useEffect } from "react";
import { useHotkeys } from "react-hotkeys-hook";
import { copySteps, doAgain, pasteSteps } from "./clipboard";
import { stepsOf } from "./model/piece";
import { NEXT, prefer, usePrefs } from "./prefs";
import { lastAgain } from "./recipes/using";
import { useBench } from "./store";
import { zoomTo, zoomToPixels } from "./store/view";

/** The Bench's keys, as the key map lists them. */
export const KEYS: [string, string][] = [
  ["O (hold)", "See the original photo"],
  ["H (hold)", "See the picture bare: no handles, outlines or tints"],
  ["S", "Split line between original and result"],
  ["G", "Surround: light, middle, dark"],
  ["0", "Fit the picture"],
  ["1  2", "One, two pixels of the screen to each pixel of the export"],
  ["+  −", "Zoom in, zoom out (also the wheel)"],
  ["A", "Add a step after the selected one"],
  [",  .", "Select the step before, the step after"],
  ["F", "Show the finished picture"],
  ["X", "Switch the selected step on or off"],
  ["Delete", "Remove the selected step"],
  ["Arrows", "Nudge the focused handle; Shift ten times as far"],
  ["Shift (drag)", "Snap a handle: rays to 15°, lengths and places to a grid, the centre to the middle; keep the ratio of a crop"],
  ["Alt (drag)", "Keep a crop about the centre"],
  ["Drag a name", "Scrub its number; with Shift ten times finer"],
  ["Escape", "Put away what is drawn with, or what lies over the picture"],
  ["Double click", "Reset a handle or a setting"],
  ["Ctrl + Z", "Undo"],
  ["Ctrl + Shift + Z", "Redo"],
  ["[  ]", "Turn the view left, right (hand work)"],
  ["C", "Side by side"],
  ["Ctrl + C, Ctrl + V", "Copy the selected step, or the whole trail; paste after the selected step"],
  ["R", "Do the last step again, here"],
  ["N  M", "Brush smaller, larger; with Shift softer, harder"],
  ["K (hold)", "See where the selected step loses tones: blue becomes black, red becomes white"],
  ["P", "One plate of the picture (the last one looked at; first its greys), or all of it"],
  ["Q (hold)", "Press on the picture to take a source or a colour from there"],
  ["L", "Roll: twelve variants"],
  ["Alt (drag a bar)", "Let it leave its level"],
  ["B", "The last recipe again, on this piece's photos"],
  ["V", "Versions"],
  ["E", "Export"],
  ["?", "This list"],
];

/** Bind the keys while the Bench is open. */
export function useBenchKeys(showKeys: () => void, tell: (words: string) => void): void {
  const patch = useBench((state) => state.patch);
  const selectBy = (way: 1 | -1) => {
    const { history, selected, layer } = useBench.getState();
    const steps = stepsOf(history.present.document, layer);
    const index = steps.findIndex((step) => step.id === selected);
    const next = steps[index < 0 ? (way > 0 ? 0 : steps.length - 1) : index + way];
    if (next) patch({ selected: next.id, side: "step" });
  };
  const onSelected = (act: (id: string, on: boolean) => void) => {
    const { history, selected, layer } = useBench.getState();
    const step = stepsOf(history.present.document, layer).find((s) => s.id === selected);
    if (step) act(step.id, step.on !== false);
  };
  const zoomBy = (factor: number) => patch(zoomTo(factor * useBench.getState().zoom, useBench.getState()));
  const pixels = (count: number) => patch(zoomToPixels(count, useBench.getState()));
  useHotkeys("s", () => patch({ split: useBench.getState().split === null ? 0.5 : null, beside: false }));
  useHotkeys("g", () => prefer({ surround: NEXT[usePrefs.getState().surround] }));
  useHotkeys("0", () => patch({ zoom: 1, pan: { x: 0, y: 0 }, viewTurn: 0 }));
  useHotkeys("1", () => pixels(1));
  useHotkeys("2", () => pixels(2));
  useHotkeys(["+", "="], () => zoomBy(1.25), { useKey: true });
  useHotkeys("-", () => zoomBy(0.8), { useKey: true });
  useHotkeys("f", () => patch({ selected: null, side: "step" }));
  useHotkeys(",", () => selectBy(-1), { useKey: true, splitKey: ";" });
  useHotkeys(".", () => selectBy(1), { useKey: true, splitKey: ";" });
  useHotkeys("x", () => onSelected((step, on) => useBench.getState().edit({ type: "switch", step, on: !on })));
  useHotkeys("delete", () =>
    onSelected((step) => {
      useBench.getState().edit({ type: "remove", step });
      patch({ selected: null });
    }),
  );
  useHotkeys(
    "a",
    () => {
      const { history, selected, overlay, layer, toggle } = useBench.getState();
      const steps = stepsOf(history.present.document, layer);
      const index = steps.findIndex((step) => step.id === selected);
      if (overlay?.kind === "finder") patch({ overlay: null });
      else toggle("finder", index < 0 ? steps.length : index + 1);
    },
    { preventDefault: true },
  );
  useHotkeys("escape", () =>
    patch({ overlay: null, tool: null, stroke: null, picking: false, pick: null, boxing: false, region: null, regionAt: null }),
  );
  useHotkeys("[", () => patch({ viewTurn: useBench.getState().viewTurn - 1 / 24 }), { useKey: true });
  useHotkeys("]", () => patch({ viewTurn: useBench.getState().viewTurn + 1 / 24 }), { useKey: true });
  useHotkeys("c", () => patch({ beside: !useBench.getState().beside, split: null }));
  useHotkeys("v", () => patch({ side: useBench.getState().side === "versions" ? "step" : "versions" }));
  useHotkeys("l", () => useBench.getState().toggle("roll"));
  useHotkeys("mod+c", copySteps);
  useHotkeys("mod+v", () => pasteSteps(), { preventDefault: true });
  const brush = (size: number, hardness: number) => {
    const { touch } = useBench.getState();
    patch({
      touch: {
        ...touch,
        radius: Number(Math.min(0.6, Math.max(0.005, touch.radius * size)).toFixed(4)),
        hardness: Number(Math.min(1, Math.max(0, touch.hardness + hardness)).toFixed(2)),
      },
    });
  };
  useHotkeys("n", () => brush(1 / 1.15, 0));
  useHotkeys("m", () => brush(1.15, 0));
  useHotkeys("shift+n", () => brush(1, -0.1));
  useHotkeys("shift+m", () => brush(1, 0.1));
  useHotkeys("p", () => patch({ plate: useBench.getState().plate ? null : useBench.getState().lastPlate }));
  useHotkeys("r", doAgain);
  useHotkeys("b", () => void lastAgain(tell));
  useHotkeys("e", () => patch({ side: "export" }));
  useHotkeys("mod+z", () => useBench.getState().undo(), { preventDefault: true });
  useHotkeys(["mod+shift+z", "mod+y"], () => useBench.getState().redo(), { preventDefault: true });
  useHotkeys("?", showKeys, { useKey: true });
  useEffect(() => {
    const typing = (event: KeyboardEvent) => (event.target as Element).closest("input, textarea, [contenteditable]");
    const held = (event: KeyboardEvent): "showOriginal" | "bare" | "picking" | "clippedShown" | null =>
      (({ o: "showOriginal", h: "bare", q: "picking", k: "clippedShown" }) as const)[event.key.toLowerCase() as "o" | "h" | "q" | "k"] ??
      null;
    const down = (event: KeyboardEvent) => {
      const part = held(event);
      if (part && !event.repeat && !event.ctrlKey && !event.metaKey && !typing(event)) patch({ [part]: true });
    };
    const up = (event: KeyboardEvent) => {
      const part = held(event);
      if (part) patch({ [part]: false });
    };
    const blur = () => patch({ showOriginal: false, bare: false, picking: false, clippedShown: false });
    window.addEventListener("keydown", down);
    window.addEventListener("keyup", up);
    window.addEventListener("blur", blur);
    return () => {
      window.removeEventListener("keydown", down);
      window.removeEventListener("keyup", up);
      window.removeEventListener("blur", blur);
    };
  }, [patch]);
}
