import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { api, type OwnGradient, take } from "../../api/client";
import { usePages } from "../../shared/usePages";
import type { Stop } from "../model/tones";

/** The artist's own gradients: listed, kept, renamed, deleted, brought back. */
export function useGradients() {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const own = usePages(["gradients"], (query) => take(api.GET("/api/v1/gradients", { params: { query } })));
  const settled = {
    onSettled: () => queries.invalidateQueries({ queryKey: ["gradients"] }),
    onError: (fault: Error) => void message.error(fault.message),
  };
  const path = (gradient: OwnGradient) => ({ params: { path: { gradient_id: gradient.id } } });
  const keep = useMutation({
    mutationFn: ({ name, stops }: { name: string; stops: Stop[] }) => take(api.POST("/api/v1/gradients", { body: { name, stops } })),
    ...settled,
  });
  const rename = useMutation({
    mutationFn: ({ gradient, name }: { gradient: OwnGradient; name: string }) =>
      take(api.PATCH("/api/v1/gradients/{gradient_id}", { ...path(gradient), body: { name } })),
    ...settled,
  });
  const restore = useMutation({
    mutationFn: (gradient: OwnGradient) => take(api.POST("/api/v1/gradients/{gradient_id}/restore", path(gradient))),
    ...settled,
  });
  const remove = useMutation({
    mutationFn: (gradient: OwnGradient) => take(api.DELETE("/api/v1/gradients/{gradient_id}", path(gradient))),
    ...settled,
  });
  return { own, keep, rename, restore, remove };
}
