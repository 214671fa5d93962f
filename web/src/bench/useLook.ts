import { type RefObject, useEffect, useLayoutEffect, useMemo, useRef, useState } from "react";
import type { Hand } from "./compare/Picture";
import { alike, Looks, type Shown, type Wanted } from "./looks";
import { sameParts } from "./model/inView";
import type { PieceDocument } from "./model/piece";
import { turnedBetween } from "./model/turning";
import { useBench } from "./store";

export type { Shown, Wanted } from "./looks";

/** Whether one picture can be painted where the other is, and nothing else on the stage changes with it. */
const liesAlike = (a: Shown, b: Shown): boolean =>
  Math.abs(a.width / a.height - b.width / b.height) < 0.01 &&
  sameParts(a.of.part ?? null, b.of.part ?? null) &&
  JSON.stringify(a.frames) === JSON.stringify(b.frames) &&
  !b.missing.length;

interface Under {
  /** The picture on the stage, to be changed without a render. */
  hand: RefObject<Hand | null>;
  /** What is looked at of the piece's document: one layer alone, perhaps. */
  seenOf: (document: PieceDocument) => PieceDocument;
}

/**
 * Keeps a picture of the wanted stage on the screen. With `under`, it follows the hand: a drag's requests leave from the edit itself, before
 * anything of the Bench is drawn again, and its drafts are painted in place.
 */
export function useLook(bench: string, wanted: Wanted | null, dragging: boolean, under?: Under) {
  const [shown, setShown] = useState<Shown | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const now = useRef({ wanted, shown, under });
  useLayoutEffect(() => {
    now.current = { wanted, shown, under };
  });
  const painted = useRef<Shown | null>(null);
  const looks = useMemo(() => {
    const onShown = (next: Shown) => {
      const { shown: last, under: follow } = now.current;
      const { dragging: drags, playing, history } = useBench.getState();
      const quiet = next.draft && drags && !playing && last && liesAlike(last, next);
      painted.current = next;
      if (!quiet || !follow?.hand.current?.paint(next)) setShown(next);
      else follow.hand.current.turn(turnedBetween(next.of.document, follow.seenOf(history.present.document)));
    };
    return new Looks(bench, onShown, setFault);
  }, [bench]);

  const { document, upto, layer = null, size, seen = 0, part = null } = wanted ?? {};
  // biome-ignore lint/correctness/useExhaustiveDependencies: how large it is seen changes the next draft, and asks for none
  useEffect(() => {
    if (!document || upto === undefined || !size) return;
    looks.want({ document, upto, layer, size, seen, part }, dragging, useBench.getState().tool === "touch");
    return () => looks.rest();
  }, [looks, document, upto, layer, size, part, dragging]);
  useEffect(() => {
    if (dragging) looks.pace.begin();
  }, [looks, dragging]);
  const follows = under !== undefined;
  useEffect(() => {
    if (!follows) return;
    return useBench.subscribe((state, before) => {
      const { wanted: last, under: follow } = now.current;
      const edited = state.history.present.document;
      if (!state.dragging || !last || !follow || edited === before.history.present.document) return;
      const next = follow.seenOf(edited);
      looks.want({ ...last, document: next }, true);
      // What only turns is turned at once; the draft that is on its way puts it right.
      if (painted.current && !state.playing) follow.hand.current?.turn(turnedBetween(painted.current.of.document, next));
    });
  }, [looks, follows]);

  const settled =
    shown !== null && !shown.draft && alike(shown.of, wanted) && shown.of.size === size && sameParts(shown.of.part ?? null, part);
  return { shown, fault, settled, looks };
}
