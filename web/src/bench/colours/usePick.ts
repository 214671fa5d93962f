import { useEffect, useId, useRef } from "react";
import { useBench } from "../store";

/**
 * Whether this control is taking a colour from the picture, and how to begin or leave that. What is picked goes to `take` as it is at that
 * moment, so edits made meanwhile stay; when the control goes or becomes that of another thing, there is nobody left to pick for.
 */
export function usePick(title: string, view: "finished" | "before", take: (colour: string) => void): [boolean, () => void] {
  const by = useId();
  const latest = useRef(take);
  latest.current = take;
  const patch = useBench((state) => state.patch);
  const picking = useBench((state) => state.pick?.by === by);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another title is another thing
  useEffect(
    () => () => {
      if (useBench.getState().pick?.by === by) patch({ pick: null });
    },
    [by, patch, title],
  );
  return [picking, () => patch({ pick: picking ? null : { by, title, view, take: (colour) => latest.current(colour) } })];
}
