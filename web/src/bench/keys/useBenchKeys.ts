import { useEffect } from "react";
import { type Act, combination, isTyping, useKeys } from "../../shared/keys";
import { useBench } from "../store";
import { type Held, KEYS, putAway } from "./list";
import { focusPicture } from "./picture";

const LISTED = Object.values(KEYS).flat();
const HELD = new Map(LISTED.flatMap(({ keys = [], held }) => (held ? keys.map((key): [string, Held] => [key, held]) : [])));

/** Whether an event comes from a dialog, or is an Escape by which a list is closed. */
const isCovered = ({ target, key }: KeyboardEvent) =>
  target instanceof Element &&
  (target.closest("[role='dialog']") !== null ||
    (key === "Escape" && target.matches("[role='combobox'][aria-expanded='true']:not(.finder *)")));

/** Bind the keys while the Bench is open. */
export function useBenchKeys(tell: (words: string) => void): void {
  const { patch } = useBench.getState();
  useKeys(
    Object.fromEntries(
      LISTED.flatMap(({ keys = [], act }) => {
        // What lies over everything has its keys to itself, but for the one that opened it.
        const does: Act = (event) => (isCovered(event) && !keys.includes("?") ? false : act?.(tell));
        return act ? keys.map((key): [string, Act] => [key, does]) : [];
      }),
    ),
  );
  useEffect(() => {
    const down = (event: KeyboardEvent) => {
      const held = HELD.get(combination(event));
      if (held && !event.repeat && !isTyping(event.target)) patch({ [held]: true });
      // Whoever typed beside the picture leaves the box first; what is searched over it is put away at once.
      if (event.key !== "Escape" || !isTyping(event.target) || isCovered(event)) return;
      if (useBench.getState().overlay) putAway();
      else focusPicture();
    };
    const up = (event: KeyboardEvent) => {
      const held = HELD.get(event.key.toLowerCase());
      if (held) patch({ [held]: false });
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
