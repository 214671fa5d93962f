import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useNavigate } from "react-router";
import { api, type RunAsked, type RunState, take } from "../api/client";
import { usePages } from "../shared/usePages";

const LIVELY = 500;
export const goes = (run: Pick<RunState, "state">) => run.state === "working";

/** All runs, the newest first; looked at again while one goes. */
export const useRuns = () =>
  usePages(["runs"], (query) => take(api.GET("/api/v1/runs", { params: { query } })), {
    refetchInterval: (runs) => (runs.some(goes) ? LIVELY : false),
  });

/** One run and its photos. */
export function useRun(id: string) {
  const path = { params: { path: { run_id: id } } };
  const run = useQuery({
    queryKey: ["runs", id],
    queryFn: () => take(api.GET("/api/v1/runs/{run_id}", path)),
    refetchInterval: ({ state }) => (state.data && (goes(state.data) || state.data.working > 0) ? LIVELY : false),
    retry: false,
  });
  const lively = run.data ? goes(run.data) || run.data.working > 0 : false;
  const ended = run.data ? run.data.done + run.data.failed + run.data.cancelled : 0;
  const photos = usePages(
    // Looked at once more whenever one has ended: the last one ends the run, and with it this watching.
    ["runs", id, "photos", ended],
    (query) => take(api.GET("/api/v1/runs/{run_id}/photos", { params: { path: { run_id: id }, query } })),
    { refetchInterval: () => (lively ? LIVELY : false) },
  );
  return { run, photos };
}

/** What can be done with a run. */
export function useRunActs(id: string) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const path = { params: { path: { run_id: id } } };
  const acts = {
    pause: () => take(api.POST("/api/v1/runs/{run_id}/pause", path)),
    on: () => take(api.POST("/api/v1/runs/{run_id}/resume", path)),
    cancel: () => take(api.POST("/api/v1/runs/{run_id}/cancel", path)),
    retry: () => take(api.POST("/api/v1/runs/{run_id}/retry", path)),
  };
  return useMutation({
    mutationFn: (act: keyof typeof acts) => acts[act](),
    onSettled: () => queries.invalidateQueries({ queryKey: ["runs"] }),
    onError: (fault: Error) => void message.error(fault.message),
  });
}

/** Ask for a run, and go where it is seen. */
export function useStartRun() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { message } = App.useApp();
  return useMutation({
    mutationFn: (asked: RunAsked) => take(api.POST("/api/v1/runs", { body: asked })),
    onSuccess: (run) => {
      navigate(`/runs/${run.id}`);
      return queries.invalidateQueries({ queryKey: ["runs"] });
    },
    onError: (fault: Error) => void message.error({ content: fault.message, duration: 10 }),
  });
}
