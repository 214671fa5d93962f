import { useCallback, useEffect, useRef, useState } from "react";
import { type ApiFault, api, type SavedPiece, take } from "../api/client";
import { useBench } from "./store";

export type SaveState =
  | { kind: "saved" | "unsaved" | "saving" }
  | { kind: "lost" | "refused"; message: string }
  | { kind: "stale"; current: SavedPiece };

const QUIET = 500;
const AGAIN = 3000;

/** Saves the piece a moment after the last edit, one save at a time; a stale save stops and is put to the user. */
export function useAutosave(): {
  state: SaveState;
  saveNow: () => Promise<boolean>;
  settleStale: (revision: number) => void;
} {
  const { pieceId, history, saved, dragging } = useBench();
  const [trouble, setTrouble] = useState<SaveState | null>(null);
  const [saving, setSaving] = useState(false);
  const going = useRef<Promise<boolean> | null>(null);
  const dirty = history.present !== saved && (history.present.document !== saved.document || history.present.name !== saved.name);

  const saveOnce = useCallback(async (): Promise<boolean> => {
    const { pieceId: id, history: now, revision } = useBench.getState();
    if (!id) return false;
    const draft = now.present;
    setSaving(true);
    try {
      const piece = await take(
        api.PUT("/api/pieces/{piece_id}", {
          params: { path: { piece_id: id } },
          body: { revision, name: draft.name, document: draft.document as unknown as Record<string, unknown> },
          keepalive: JSON.stringify(draft.document).length < 60_000,
        }),
      );
      useBench.getState().savedAs(piece.revision, draft);
      setTrouble(null);
      return true;
    } catch (error) {
      const fault = error as ApiFault;
      if (fault.code === "stale") setTrouble({ kind: "stale", current: (fault.details as { current: SavedPiece }).current });
      else
        setTrouble({
          kind: fault.code === "connection" || fault.code === "disk" ? "lost" : "refused",
          message: fault.message,
        });
      return false;
    } finally {
      setSaving(false);
    }
  }, []);

  const saveNow = useCallback(async (): Promise<boolean> => {
    if (going.current) await going.current;
    const { history: now, saved: kept } = useBench.getState();
    if (now.present === kept) return true;
    going.current = saveOnce();
    const done = await going.current;
    going.current = null;
    return done;
  }, [saveOnce]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: every edit starts the wait anew
  useEffect(() => {
    if (!pieceId || !dirty || dragging || trouble?.kind === "stale" || trouble?.kind === "refused") return;
    const timer = setTimeout(() => void saveNow(), trouble ? AGAIN : QUIET);
    return () => clearTimeout(timer);
  }, [pieceId, dirty, dragging, trouble, saveNow, history.present]);

  // A refused save may be mended by the next edit.
  // biome-ignore lint/correctness/useExhaustiveDependencies: the edit itself is the signal
  useEffect(() => setTrouble((was) => (was?.kind === "refused" ? null : was)), [history.present]);

  useEffect(() => {
    const leave = () => {
      if (useBench.getState().history.present !== useBench.getState().saved) void saveNow();
    };
    window.addEventListener("pagehide", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      leave();
    };
  }, [saveNow]);

  const settleStale = useCallback((revision: number) => {
    useBench.setState({ revision });
    setTrouble(null);
  }, []);

  const state: SaveState = trouble ?? (saving ? { kind: "saving" } : dirty ? { kind: "unsaved" } : { kind: "saved" });
  return { state, saveNow, settleStale };
}
