import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { api, type OwnFormula, take } from "../../api/client";
import { usePages } from "../../shared/usePages";
import type { Settings } from "../model/piece";

/** The artist's own formulas: listed, kept, renamed, deleted, brought back, taken in from a file. */
export function useBook() {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const own = usePages(["formulas"], (query) => take(api.GET("/api/v1/formulas", { params: { query } })));
  const settled = {
    onSettled: () => queries.invalidateQueries({ queryKey: ["formulas"] }),
    onError: (fault: Error) => void message.error(fault.message),
  };
  const keep = useMutation({
    mutationFn: ({ name, settings }: { name: string; settings: Settings }) =>
      take(api.POST("/api/v1/formulas", { body: { name, settings } })),
    onSuccess: ({ name }) => void message.success(`“${name}” was saved.`),
    ...settled,
  });
  const path = (formula: OwnFormula) => ({ params: { path: { formula_id: formula.id } } });
  const rename = useMutation({
    mutationFn: ({ formula, name }: { formula: OwnFormula; name: string }) =>
      take(api.PATCH("/api/v1/formulas/{formula_id}", { ...path(formula), body: { name } })),
    ...settled,
  });
  const restore = useMutation({
    mutationFn: (formula: OwnFormula) => take(api.POST("/api/v1/formulas/{formula_id}/restore", path(formula))),
    ...settled,
  });
  const remove = useMutation({
    mutationFn: (formula: OwnFormula) => take(api.DELETE("/api/v1/formulas/{formula_id}", path(formula))),
    ...settled,
  });
  const takeIn = useMutation({
    mutationFn: async (file: File) => {
      let found: { formula?: unknown; settings?: unknown };
      try {
        found = JSON.parse(await file.text());
      } catch {
        throw new Error(`${file.name} is not a formula file: it is not valid JSON.`);
      }
      if (typeof found.formula !== "string" || typeof found.settings !== "object" || !found.settings)
        throw new Error(`${file.name} is not a formula file: it needs a “formula” name and “settings”.`);
      return take(api.POST("/api/v1/formulas", { body: { name: found.formula, settings: found.settings as Settings } }));
    },
    ...settled,
  });
  return { own, fault: own.error, keep, rename, remove, restore, takeIn };
}
