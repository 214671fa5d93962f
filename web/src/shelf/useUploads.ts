import { useQueryClient } from "@tanstack/react-query";
import pLimit from "p-limit";
import { useCallback, useRef, useState } from "react";
import type { Photo } from "../api/client";
import { uploadPhoto } from "../api/upload";
import { useCatalogue } from "../shared/useCatalogue";

export interface Upload {
  id: number;
  name: string;
  share: number;
  state: "waiting" | "sending" | "reading" | "failed";
  message: string;
}

const AT_ONCE = 2;

const mega = (bytes: number) => Math.round(bytes / (1 << 20));
/** What is said of a file before any of it is sent. */
const tooLarge = (file: File, most: number) => `It has ${mega(file.size)} MB; at most ${mega(most)} MB are taken. Make it smaller first.`;

/** Sends files two at a time; finished ones leave the list, failed ones stay with their reason until dismissed. */
export function useUploads(onAdded: (photo: Photo) => void) {
  const { upload_bytes: most } = useCatalogue();
  const queries = useQueryClient();
  const [uploads, setUploads] = useState<Upload[]>([]);
  const [notes, setNotes] = useState<string[]>([]);
  const limit = useRef(pLimit(AT_ONCE));
  const next = useRef(1);

  const change = useCallback((id: number, part: Partial<Upload>) => {
    setUploads((all) => all.map((u) => (u.id === id ? { ...u, ...part } : u)));
  }, []);
  const dismiss = useCallback((id: number) => setUploads((all) => all.filter((u) => u.id !== id)), []);

  const send = useCallback(
    async (id: number, file: File) => {
      change(id, { state: "sending" });
      try {
        const photo = await uploadPhoto(file, (share) => change(id, { share, state: share >= 1 ? "reading" : "sending" }));
        dismiss(id);
        if (!photo.new) setNotes((all) => [...all, `${file.name} was on the Shelf already.`]);
        setNotes((all) => [...all, ...photo.notes.map((note) => `${photo.name}: ${note}`)]);
        onAdded(photo);
        await queries.invalidateQueries({ queryKey: ["photos"] });
      } catch (fault) {
        change(id, { state: "failed", message: (fault as Error).message });
      }
    },
    [change, dismiss, onAdded, queries],
  );

  const add = useCallback(
    (files: File[]) => {
      const jobs = files.map((file) => ({ id: next.current++, file }));
      setUploads((all) => [
        ...all,
        ...jobs.map(({ id, file }) => ({ id, name: file.name, share: 0, state: "waiting" as const, message: "" })),
      ]);
      for (const { id, file } of jobs) {
        if (file.size > most) change(id, { state: "failed", message: tooLarge(file, most) });
        else void limit.current(() => send(id, file));
      }
    },
    [send, change, most],
  );
  return { uploads, notes, add, dismiss, clearNotes: useCallback(() => setNotes([]), []) };
}
