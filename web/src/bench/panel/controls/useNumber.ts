import { useDrag } from "@use-gesture/react";
import { useRef } from "react";
import { clamp, round } from "../../model/geometry";
import { effective, shownAs } from "../../model/settings";
import { useBench } from "../../store";
import type { ControlProps } from "./types";

/** So many pixels of the screen take a scrubbed number from one end to the other; with Shift ten times as many. */
const SPAN = 260;
const FINER = 10;

let drags = 0;

/** A number setting as it is shown, and the ways to change it: typed, slid, or scrubbed sideways by its name. */
export function useNumber({ kind, setting, settings, onChange, onDragging }: ControlProps) {
  const { times, places, after } = shownAs(setting.unit);
  const value = Number(effective(kind, settings, setting.name) ?? 0);
  const low = setting.minimum ?? 0;
  const high = setting.maximum ?? 1;
  const step = setting.step ?? 0.01;
  const gesture = useRef<string | null>(null);
  const drag = (next: number, keyed = false) => {
    if (!gesture.current) {
      drags += 1;
      gesture.current = keyed ? `nudge-${setting.name}` : `slide-${drags}`;
      useBench.setState({ draggedSetting: setting.name });
      onDragging(true);
    }
    onChange(round(clamp(next, low, high), 6), gesture.current);
  };
  const done = () => {
    gesture.current = null;
    useBench.setState({ draggedSetting: null });
    onDragging(false);
  };
  const type = (next: number | null) => {
    if (next !== null) onChange(round(clamp(next / times, low, high), 6), `type-${setting.name}`);
  };
  const bind = useDrag(
    ({ delta: [dx], shiftKey, last, memo = value }) => {
      const fine = setting.type === "integer" ? 1 : shiftKey ? FINER : 1;
      const free: number = clamp(memo + (dx * (high - low)) / (SPAN * (shiftKey ? FINER : 1)), low, high);
      const grain = step / fine;
      if (dx !== 0) drag(Math.round(free / grain) * grain);
      if (last && gesture.current) done();
      return free;
    },
    { filterTaps: true, threshold: 3, axis: "x", pointer: { keys: false } },
  );
  return { value, low, high, step, times, places, after, drag, done, type, scrub: bind };
}
