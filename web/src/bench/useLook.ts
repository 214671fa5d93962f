import { useEffect, useRef, useState } from "react";
import { ApiFault, makeLook } from "../api/client";
import type { PieceDocument } from "./model/piece";

export interface Shown {
  url: string;
  width: number;
  height: number;
  /** Photos that are gone, in words. */
  missing: string[];
  /** What it shows. */
  of: Wanted;
  draft: boolean;
}

export interface Wanted {
  document: PieceDocument;
  /** How many steps of the layer, alone; null for the finished piece. */
  upto: number | null;
  layer: string | null;
  size: number;
  /** How long the picture's longer side is on the screen, so that a draft is never larger. */
  seen: number;
}

const DRAFT_SIZE = 768;
const GRAIN = 64;
const PATIENCE = 90;
const SETTLE = 180;

let counter = Date.now();

/**
 * Keeps a picture of the wanted stage on the screen. While `dragging`, drafts: one request at a time, the newest wanted one next, and one
 * that takes long is overtaken. Otherwise a draft at once and the full picture when nothing changes any more.
 */
export function useLook(bench: string, wanted: Wanted | null, dragging: boolean) {
  const [shown, setShown] = useState<Shown | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const waiting = useRef<{ wanted: Wanted; draft: boolean } | null>(null);
  const flying = useRef(0);
  const newest = useRef(0);
  const asked = useRef<{ document: PieceDocument; upto: number | null; layer: string | null } | null>(null);
  const lastShown = useRef(0);
  const urls = useRef<string[]>([]);

  const { document, upto, layer = null, size, seen = DRAFT_SIZE } = wanted ?? {};
  const draftSize = useRef(DRAFT_SIZE);
  draftSize.current = Math.min(DRAFT_SIZE, Math.max(GRAIN, Math.floor(seen / GRAIN) * GRAIN));
  useEffect(() => {
    if (!document || upto === undefined || !size) return;
    const now: Wanted = { document, upto, layer, size, seen: draftSize.current };

    const send = async (job: Wanted, draft: boolean) => {
      flying.current += 1;
      counter += 1;
      const turn = counter;
      newest.current = turn;
      try {
        const look = await makeLook({
          document: job.document,
          upto: job.upto,
          layer: job.upto === null ? null : job.layer,
          size: draft ? Math.min(job.seen, job.size) : job.size,
          draft,
          bench,
          turn,
        });
        const url = URL.createObjectURL(look.blob);
        const image = new Image();
        image.src = url;
        await image.decode();
        if (turn > lastShown.current) {
          lastShown.current = turn;
          urls.current.push(url);
          setShown({ url, width: look.width, height: look.height, missing: look.missing, of: job, draft });
          setFault(null);
          while (urls.current.length > 3) URL.revokeObjectURL(urls.current.shift() ?? "");
        } else URL.revokeObjectURL(url);
      } catch (error) {
        if (turn === newest.current && !(error instanceof ApiFault && error.code === "overtaken")) setFault((error as Error).message);
      } finally {
        flying.current -= 1;
        const next = waiting.current;
        waiting.current = null;
        if (next) void send(next.wanted, next.draft);
      }
    };
    const ask = (draft: boolean) => {
      // A full picture waits for the draft before it, so that something is seen soon.
      if (flying.current === 0) void send(now, draft);
      else waiting.current = { wanted: now, draft };
    };
    // The end of a drag, or a change of the window, brings nothing new: no second draft.
    if (asked.current?.document !== document || asked.current.upto !== upto || asked.current.layer !== layer) ask(true);
    asked.current = { document, upto, layer };
    const hurry = setTimeout(() => {
      const next = waiting.current;
      if (next?.wanted === now && next.draft) {
        waiting.current = null;
        void send(next.wanted, next.draft);
      }
    }, PATIENCE);
    const settle = dragging ? undefined : setTimeout(() => ask(false), SETTLE);
    return () => {
      clearTimeout(hurry);
      clearTimeout(settle);
    };
  }, [bench, document, upto, layer, size, dragging]);

  const { of, draft = true } = shown ?? {};
  const settled = !draft && of?.document === document && of?.upto === upto && of?.layer === layer && of?.size === size;
  return { shown, fault, settled };
}
