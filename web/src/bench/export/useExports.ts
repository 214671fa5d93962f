import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useEffect, useRef, useState } from "react";
import { api, type ExportJob, type ExportOptions, take } from "../../api/client";
import { usePages } from "../../shared/usePages";

const active = (job: ExportJob) => job.state === "waiting" || job.state === "working";

function download(job: ExportJob) {
  const link = document.createElement("a");
  link.href = `/api/v1/exports/${job.id}/file`;
  link.download = job.file_name;
  link.click();
}

/** A piece's exports; those asked for here are downloaded when they are done. */
export function useExports(pieceId: string, saveNow: () => Promise<boolean>) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const mine = useRef(new Set<string>());
  // All that were asked for here, since the panel was opened.
  const [asked, setAsked] = useState<ReadonlySet<string>>(new Set());
  const key = ["exports", pieceId];
  const list = usePages(
    key,
    (query) => take(api.GET("/api/v1/pieces/{piece_id}/exports", { params: { path: { piece_id: pieceId }, query } })),
    { limit: 20, refetchInterval: (jobs) => (jobs.some(active) ? 400 : false) },
  );
  const ask = useMutation({
    mutationFn: async (all: ExportOptions[]) => {
      if (!(await saveNow())) throw new Error("Not exported, because the piece could not be saved. The note beside its name says why.");
      for (const options of all) {
        const job = await take(api.POST("/api/v1/pieces/{piece_id}/exports", { params: { path: { piece_id: pieceId } }, body: options }));
        mine.current.add(job.id);
        setAsked((before) => new Set([...before, job.id]));
      }
    },
    onSettled: () => {
      return queries.invalidateQueries({ queryKey: key });
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
  const cancel = useMutation({
    mutationFn: (id: string) => take(api.POST("/api/v1/exports/{export_id}/cancel", { params: { path: { export_id: id } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: key }),
  });
  useEffect(() => {
    for (const job of list.items) {
      if (!active(job) && mine.current.delete(job.id) && job.state === "done") download(job);
    }
  }, [list.items]);
  const here = list.items.filter((job) => asked.has(job.id));
  // Of several the one that is worked on, or the first that waits; when all are done, the last.
  const latest = here.findLast(active) ?? list.items.findLast(active) ?? here[0];
  return { jobs: list, latest, ask, cancel };
}
