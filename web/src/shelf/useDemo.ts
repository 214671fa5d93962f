import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { api, take } from "../api/client";

const OFTEN = 1500;

/** The demo's photos and pieces, drawn by the worker; the Shelf is looked at again until all of them are there. */
export function useDemo() {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const begin = useMutation({
    mutationFn: () => take(api.POST("/api/v1/demo")),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ["demo"] }),
    onError: (fault: Error) => void message.error(fault.message),
  });
  const state = useQuery({
    queryKey: ["demo"],
    queryFn: async () => {
      const now = await take(api.GET("/api/v1/demo"));
      if (now.loading) await Promise.all(["photos", "pieces"].map((what) => queries.invalidateQueries({ queryKey: [what] })));
      return now;
    },
    refetchInterval: ({ state: { data } }) => (data?.loading ? OFTEN : false),
  });
  return { load: () => begin.mutate(), isLoading: begin.isPending || state.data?.loading === true, photos: state.data?.photos ?? 0 };
}
