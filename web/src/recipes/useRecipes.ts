import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { App } from "antd";
import { useNavigate } from "react-router";
import { api, type Recipe, type RecipeChange, take } from "../api/client";
import { usePages } from "../shared/usePages";
import { useUndoNotice } from "../shared/useUndoNotice";

/** Where a recipe's picture on a photo lies; on the photo that suits it where none is named. Changed recipes have other addresses. */
export function pictureOf(
  recipe: { id: string; changed_at: string },
  photo = "",
  dials: Record<string, number> = {},
  size = 384,
  slots: Record<string, string> = {},
): string {
  const asked = new URLSearchParams({ size: String(size), v: recipe.changed_at });
  if (photo) asked.set("photo", photo);
  if (Object.keys(dials).length) asked.set("dials", JSON.stringify(dials));
  if (Object.keys(slots).length) asked.set("slots", JSON.stringify(slots));
  return `/api/v1/recipes/${recipe.id}/preview?${asked}`;
}

/** The book, and what can be done with a recipe of it. */
export function useRecipes(search: string) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const offerUndo = useUndoNotice();
  const tell = (fault: Error) => void message.error(fault.message);
  const refresh = () => queries.invalidateQueries({ queryKey: ["recipes"] });
  const book = usePages(["recipes", search], (query) => take(api.GET("/api/v1/recipes", { params: { query: { ...query, search } } })));
  const change = useMutation({
    mutationFn: ({ id, to }: { id: string; to: RecipeChange }) =>
      take(api.PUT("/api/v1/recipes/{recipe_id}", { params: { path: { recipe_id: id } }, body: to })),
    onSettled: refresh,
    onError: tell,
  });
  const copy = useMutation({
    mutationFn: (id: string) => take(api.POST("/api/v1/recipes/{recipe_id}/copies", { params: { path: { recipe_id: id } } })),
    onSettled: refresh,
    onError: tell,
  });
  const open = useMutation({
    mutationFn: async (file: File) => {
      let data: Record<string, unknown>;
      try {
        data = JSON.parse(await file.text());
      } catch {
        throw new Error(`${file.name} is not a recipe file: it is not valid JSON.`);
      }
      return take(api.POST("/api/v1/recipes/imports", { body: { data, name: file.name.replace(/\.json$/, "") || "Recipe" } }));
    },
    onSettled: refresh,
    onError: (fault: Error, file) => void message.error({ content: `${file.name}: ${fault.message}`, duration: 12 }),
  });
  const remove = useMutation({
    mutationFn: (recipe: Recipe) => take(api.DELETE("/api/v1/recipes/{recipe_id}", { params: { path: { recipe_id: recipe.id } } })),
    onSuccess: (_, recipe) => {
      offerUndo(`“${recipe.name}” was deleted`, () =>
        take(api.POST("/api/v1/recipes/{recipe_id}/restore", { params: { path: { recipe_id: recipe.id } } })).then(refresh),
      );
    },
    onSettled: refresh,
    onError: tell,
  });
  return { book, change, copy, open, remove };
}

/** One recipe, wherever it stands in the book. */
export function useRecipe(id: string | undefined) {
  return useQuery({
    queryKey: ["recipes", "one", id],
    queryFn: () => take(api.GET("/api/v1/recipes/{recipe_id}", { params: { path: { recipe_id: id ?? "" } } })),
    enabled: Boolean(id),
    retry: false,
  });
}

interface Making {
  recipe: string;
  photos: string[];
  dials: Record<string, number>;
  /** Photos chosen for some of its layers, for all pieces the same. */
  slots: Record<string, string>;
  /** Whether a piece alone is not opened either. */
  stay?: boolean;
}

/** Make pieces of a recipe and photos; one alone is opened. */
export function useMakePieces() {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const { message } = App.useApp();
  return useMutation({
    mutationFn: ({ recipe, photos, dials, slots }: Making) =>
      take(api.POST("/api/v1/recipes/{recipe_id}/pieces", { params: { path: { recipe_id: recipe } }, body: { photos, dials, slots } })),
    onSuccess: (pieces, { stay }) => {
      const [only] = pieces;
      if (stay) void message.success(`“${only?.name}” is on the Shelf.`);
      else if (pieces.length === 1 && only) navigate(`/bench/${only.id}`);
      else void message.success(`${pieces.length} pieces are on the Shelf.`);
      return queries.invalidateQueries({ queryKey: ["pieces"] });
    },
    onError: (fault: Error) => void message.error(fault.message),
  });
}
