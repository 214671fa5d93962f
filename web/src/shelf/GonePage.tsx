import { useMutation, useQueryClient } from "@tanstack/react-query";
import { App, Button } from "antd";
import { Link } from "react-router";
import { api, take, thumbnailOf } from "../api/client";
import { pictureOf } from "../recipes/useRecipes";
import { Head } from "../shared/Head";
import { More } from "../shared/More";
import { usePages } from "../shared/usePages";
import "./ShelfPage.css";

interface Gone {
  id: string;
  name: string;
  picture: string;
}

/** What was taken off the Shelf or out of the book; nothing of it is lost before it is brought back. */
export function GonePage() {
  const photos = usePages(["photos", "gone"], (query) => take(api.GET("/api/v1/photos", { params: { query: { ...query, gone: true } } })));
  const pieces = usePages(["pieces", "gone"], (query) => take(api.GET("/api/v1/pieces", { params: { query: { ...query, gone: true } } })));
  const recipes = usePages(["recipes", "gone"], (query) =>
    take(api.GET("/api/v1/recipes", { params: { query: { ...query, gone: true } } })),
  );
  const none = photos.isSuccess && pieces.isSuccess && recipes.isSuccess && !(photos.count + pieces.count + recipes.count);
  return (
    <div className="app">
      <Head />
      <main className="shelf-main">
        <div className="shelf-bar">
          <h1>Recently deleted</h1>
          <Link to="/">Back to the Shelf</Link>
        </div>
        {none && <p className="quiet">Nothing was deleted.</p>}
        <Kind
          what="photos"
          title="Photos"
          rows={photos.items.map((one) => ({ id: one.id, name: one.name, picture: one.thumbnail }))}
          restore={(id) => take(api.POST("/api/v1/photos/{photo_id}/restore", { params: { path: { photo_id: id } } }))}
        />
        <More pages={photos} />
        <Kind
          what="pieces"
          title="Pieces"
          rows={pieces.items.map((one) => ({ id: one.id, name: one.name, picture: thumbnailOf(one.id, one.revision) }))}
          restore={(id) => take(api.POST("/api/v1/pieces/{piece_id}/restore", { params: { path: { piece_id: id } } }))}
        />
        <More pages={pieces} />
        <Kind
          what="recipes"
          title="Recipes"
          rows={recipes.items.map((one) => ({ id: one.id, name: one.name, picture: pictureOf(one, "", {}, 128) }))}
          restore={(id) => take(api.POST("/api/v1/recipes/{recipe_id}/restore", { params: { path: { recipe_id: id } } }))}
        />
        <More pages={recipes} />
      </main>
    </div>
  );
}

interface KindProps {
  what: string;
  title: string;
  rows: Gone[];
  restore: (id: string) => Promise<unknown>;
}

function Kind({ what, title, rows, restore }: KindProps) {
  const queries = useQueryClient();
  const { message } = App.useApp();
  const back = useMutation({
    mutationFn: (row: Gone) => restore(row.id),
    onSuccess: (_, row) => void message.success(`“${row.name}” was restored.`),
    onError: (fault: Error) => void message.error(fault.message),
    onSettled: () => queries.invalidateQueries({ queryKey: [what] }),
  });
  if (!rows.length) return null;
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <ul className="gone-list">
        {rows.map((row) => (
          <li key={row.id}>
            <img src={row.picture} alt="" loading="lazy" />
            <strong className="clip" title={row.name}>
              {row.name}
            </strong>
            <Button
              aria-label={`Restore ${row.name}`}
              loading={back.isPending && back.variables?.id === row.id}
              onClick={() => back.mutate(row)}
            >
              Restore
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
