import type { MouseEvent } from "react";
import { fromScreen, type Placed, toFrame } from "../model/geometry";
import { SOURCE } from "../model/view";
import { useBench } from "../store";
import { useWordings } from "./useWordings";

/** What a double click on the stage does where the finished piece is seen: words under it are written there. `piece` is null where none is. */
export function useWordsPressed(piece: Placed | null): (event: MouseEvent<HTMLElement>) => void {
  const words = useWordings();
  const patch = useBench((state) => state.patch);
  return (event) => {
    const { target, currentTarget, clientX, clientY } = event;
    // A knob is set back by a double click.
    if (!piece || (target instanceof Element && target.closest(".knob:not(.face), button, input, textarea"))) return;
    const stage = currentTarget.getBoundingClientRect();
    const { x, y } = toFrame(piece, fromScreen(piece, { x: clientX - stage.left, y: clientY - stage.top }));
    const hit = words.find(({ box: [left = 0, top = 0, right = 0, bottom = 0] }) => x >= left && x <= right && y >= top && y <= bottom);
    if (hit) patch({ layer: hit.layer, selected: SOURCE, side: "step", overlay: null, wording: hit.layer });
  };
}
