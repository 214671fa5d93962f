import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import type { Photo } from "../api/client";
import { uploadPhoto } from "../api/upload";

export interface Upload {
  id: number;
  name: string;
  share: number;
  state: "waiting" | "sending" | "reading" | "failed";
  message: string;
}

const AT_ONCE = 2;

/** Sends files two at a time; finished ones leave the list, failed ones stay with their reason until dismissed. */
export function useUploads(onAdded: (photo: Photo) => void) {
  const queries = useQueryClient();
  const [uploads, setUploads] = useState<Upload[]>([]);
  const [notes, setNotes] = useState<string[]>([]);
  const waiting = useRef<{ id: number; file: File }[]>([]);
  const running = useRef(0);
  const next = useRef(1);

  const change = useCallback((id: number, part: Partial<Upload>) => {
    setUploads((all) => all.map((u) => (u.id === id ? { ...u, ...part } : u)));
  }, []);
  const dismiss = useCallback((id: number) => setUploads((all) => all.filter((u) => u.id !== id)), []);

  const pump = useCallback(() => {
    while (running.current < AT_ONCE) {
      const job = waiting.current.shift();
      if (!job) return;
      running.current += 1;
      change(job.id, { state: "sending" });
      uploadPhoto(job.file, (share) => change(job.id, { share, state: share >= 1 ? "reading" : "sending" }))
        .then((photo) => {
          dismiss(job.id);
          if (!photo.new) setNotes((all) => [...all, `${job.file.name} was on the Shelf already.`]);
          setNotes((all) => [...all, ...photo.notes.map((note) => `${photo.name}: ${note}`)]);
          onAdded(photo);
          return queries.invalidateQueries({ queryKey: ["photos"] });
        })
        .catch((fault: Error) => change(job.id, { state: "failed", message: fault.message }))
        .finally(() => {
          running.current -= 1;
          pump();
        });
    }
  }, [change, dismiss, onAdded, queries]);

  const add = useCallback(
    (files: File[]) => {
      const jobs = files.map((file) => ({ id: next.current++, file }));
      setUploads((all) => [
        ...all,
        ...jobs.map(({ id, file }) => ({ id, name: file.name, share: 0, state: "waiting" as const, message: "" })),
      ]);
      waiting.current.push(...jobs);
      pump();
    },
    [pump],
  );
  return { uploads, notes, add, dismiss, clearNotes: useCallback(() => setNotes([]), []) };
}
