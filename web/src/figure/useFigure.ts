import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useEffect, useRef, useState } from "react";
import { api, type Cut, makeFigure, type Photo, take } from "../api/client";
import type { Where } from "../bench/model/piece";
import { stored } from "../shared/storage";
import { useBlobUrl } from "../shared/useBlobUrl";
import { cutOf, FEATHER, type Figure, foundBy, NEW_FIGURE } from "./figure";

/** What was begun of a figure and not kept, where there is something. */
function begunBefore(key: string): Figure | null {
  const kept = stored.read<Figure>(key);
  return kept?.outline ? kept : null;
}

/** A figure being outlined: as it is, what goes back and forth, and what the server makes of it. */
export function useFigure(photo: string, cut: Cut | null, name: string) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const first: Figure = cut
    ? { search: cut.search ?? null, outline: cut.outline, hair: cut.hair ?? 0, fringe: cut.fringe ?? 0 }
    : NEW_FIGURE;
  // Leaving is no loss: what was begun is there when one comes back.
  const key = `caracol-figure-${name}`;
  const [begun] = useState(() => begunBefore(key));
  const [restored, setRestored] = useState(begun !== null);
  const [history, setHistory] = useState({ past: [] as Figure[], now: begun ?? first, next: [] as Figure[] });
  useEffect(() => {
    if (history.past.length) stored.write(key, history.now);
    else if (!restored) stored.remove(key);
  }, [history, restored, key]);
  const anew = () => {
    stored.remove(key);
    setRestored(false);
    gesture.current = undefined;
    setHistory({ past: [], now: first, next: [] });
  };
  const gesture = useRef<string | undefined>(undefined);
  const { now } = history;
  const change = (part: Partial<Figure> | ((before: Figure) => Partial<Figure>), name?: string) => {
    const same = name !== undefined && gesture.current === name;
    gesture.current = name;
    setHistory(({ past, now: before }) => ({
      past: same ? past : [...past, before],
      now: { ...before, ...(typeof part === "function" ? part(before) : part) },
      next: [],
    }));
  };
  const go = (back: boolean) =>
    setHistory(({ past, now: at, next }) => {
      gesture.current = undefined;
      const to = back ? past.at(-1) : next[0];
      if (!to) return { past, now: at, next };
      return back ? { past: past.slice(0, -1), now: to, next: [at, ...next] } : { past: [...past, at], now: to, next: next.slice(1) };
    });
  const search = useMutation({
    // One after the other: a stroke may be painted while the one before is still being looked at.
    scope: { id: key },
    mutationFn: (wanted: NonNullable<Figure["search"]>) =>
      take(
        api.POST("/api/v1/figures/outlines", {
          body: { photo, search: wanted, feather: now.outline?.feather ?? FEATHER },
        }),
      ),
    onSuccess: ({ outline }, wanted) => change((before) => foundBy(wanted, outline as Where, before)),
    onError: (fault: Error) => void message.error(fault.message),
  });
  const whole = cutOf(photo, now);
  const { data, isFetching } = useQuery({
    queryKey: ["figure", JSON.stringify(whole)],
    queryFn: ({ signal }) => makeFigure(whole as Cut, signal),
    enabled: whole !== null,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    placeholderData: (old) => old,
    retry: false,
  });
  const shown = useBlobUrl(whole ? data?.blob : undefined);
  const keep = useMutation({
    mutationFn: ({ name, correct }: { name: string; correct: Photo | null }) =>
      correct
        ? take(api.PUT("/api/v1/figures/{photo_id}", { params: { path: { photo_id: correct.id } }, body: { cut: whole as Cut } }))
        : take(api.POST("/api/v1/figures", { body: { name, cut: whole as Cut } })),
    onSuccess: () => {
      stored.remove(key);
      return queries.invalidateQueries({ queryKey: ["photos"] });
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
  return {
    figure: now,
    change,
    search,
    /** What the next stroke adds to. */
    searched: search.isPending ? search.variables : now.search,
    keep,
    shown,
    restored,
    anew,
    /** Where the figure was expected to reach and does not, as long as what was found last stands. */
    doubtful: (search.data && now.search === search.variables ? search.data.doubtful : undefined) ?? [],
    busy: isFetching || search.isPending,
    back: history.past.length ? () => go(true) : null,
    forth: history.next.length ? () => go(false) : null,
  };
}
