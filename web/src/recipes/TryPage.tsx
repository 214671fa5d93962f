import { useQuery } from "@tanstack/react-query";
import { Alert, Button, Spin } from "antd";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { api, type Try, take } from "../api/client";
import { StartRun } from "../runs/StartRun";
import { Head } from "../shared/Head";
import { Dials } from "./Dials";
import { keyOf, TrySheet } from "./TrySheet";
import { useMakePieces, useRecipe } from "./useRecipes";
import { useSettled } from "./useSettled";
import "./RecipesPage.css";

function usePicks(tries: Try[]) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  const pick = (key: string) =>
    setPicked((now) => {
      const next = new Set(now);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  return {
    picked,
    pick,
    chosen: tries.filter((one) => picked.has(keyOf(one))),
    none: () => setPicked(new Set()),
    all: () => setPicked(new Set(tries.map(keyOf))),
  };
}

/** One recipe on every photo of the Shelf. */
export function TryRecipePage() {
  const { recipeId } = useParams();
  const recipe = useRecipe(recipeId);
  const { data, isPending, error } = useQuery({
    queryKey: ["recipes", "tries", recipeId],
    queryFn: () => take(api.GET("/api/recipes/{recipe_id}/tries", { params: { path: { recipe_id: recipeId ?? "" } } })),
    retry: false,
  });
  const [dials, setDials] = useState<Record<string, number>>({});
  const settled = useSettled(dials);
  const { picked, pick, chosen, none, all } = usePicks(data ?? []);
  const make = useMakePieces();
  const fault = error ?? recipe.error;
  return (
    <div className="app">
      <Head />
      <main className="shelf">
        <div className="shelf-main">
          <section aria-label="Try-on">
            <div className="try-bar">
              <h1>{recipe.data ? `${recipe.data.name} on your photos` : "Try-on"}</h1>
              <Link to="/recipes">Back to the book</Link>
            </div>
            {isPending && <Spin description="Looking for what suits" />}
            {fault && <Alert type="error" showIcon title={fault.message} />}
            {data && !data.length && <p className="quiet">There is no photo on the Shelf yet.</p>}
            {data && recipe.data && (
              <TrySheet
                tries={data}
                named={(one) => one.photo_name}
                changed={() => recipe.data.changed_at}
                dials={settled}
                picked={picked}
                onPick={pick}
              />
            )}
          </section>
        </div>
        <aside className="side" aria-label="Dials for all">
          <h2>For all of them</h2>
          {recipe.data && recipe.data.dials.length > 0 ? (
            <>
              <Dials dials={recipe.data.dials} values={dials} onChange={setDials} />
              <Button className="at-start" size="small" disabled={!Object.keys(dials).length} onClick={() => setDials({})}>
                As the recipe has it
              </Button>
            </>
          ) : (
            <p className="quiet">This recipe leaves nothing open.</p>
          )}
          <h3>{chosen.length ? `${chosen.length} picked` : "Pick what you want to go on with"}</h3>
          <Button
            type="primary"
            size="large"
            disabled={!chosen.length}
            loading={make.isPending}
            onClick={() => make.mutate({ recipe: recipeId ?? "", photos: chosen.map((one) => one.photo), dials }, { onSuccess: none })}
          >
            {chosen.length > 1 ? `Make ${chosen.length} pieces` : "Make a piece"}
          </Button>
          {data && data.length > 1 && (
            <Button className="at-start" size="small" type="text" onClick={() => (chosen.length === data.length ? none() : all())}>
              {chosen.length === data.length ? "Pick none" : `Pick all ${data.length}`}
            </Button>
          )}
          <StartRun recipe={recipeId ?? ""} photos={chosen.map((one) => one.photo)} dials={dials} />
        </aside>
      </main>
    </div>
  );
}

/** Every recipe of the book on one photo. */
export function TryPhotoPage() {
  const { photoId } = useParams();
  const { data, isPending, error } = useQuery({
    queryKey: ["recipes", "on", photoId],
    queryFn: () => take(api.GET("/api/recipes/on/{photo_id}", { params: { path: { photo_id: photoId ?? "" } } })),
    retry: false,
  });
  const { picked, pick, chosen, none } = usePicks(data ?? []);
  const make = useMakePieces();
  const makeAll = async () => {
    for (const one of chosen) await make.mutateAsync({ recipe: one.recipe, photos: [one.photo], dials: {}, stay: chosen.length > 1 });
    none();
  };
  const name = data?.[0]?.photo_name;
  return (
    <div className="app">
      <Head />
      <main className="shelf">
        <div className="shelf-main">
          <section aria-label="Try-on">
            <div className="try-bar">
              <h1>{name ? `Recipes on ${name}` : "Try-on"}</h1>
              <Link to="/">Back to the Shelf</Link>
            </div>
            {isPending && <Spin description="Looking for what suits" />}
            {error && <Alert type="error" showIcon title={error.message} />}
            {data && !data.length && <p className="quiet">There is no recipe in the book.</p>}
            {data && <TrySheet tries={data} named={(one) => one.recipe_name} changed={() => ""} dials={{}} picked={picked} onPick={pick} />}
          </section>
        </div>
        <aside className="side" aria-label="What was picked">
          <h2>{chosen.length ? `${chosen.length} picked` : "Pick what you want to go on with"}</h2>
          <ul className="quiet">
            {chosen.map((one) => (
              <li key={keyOf(one)}>{one.recipe_name}</li>
            ))}
          </ul>
          <Button type="primary" size="large" disabled={!chosen.length} loading={make.isPending} onClick={() => void makeAll()}>
            {chosen.length > 1 ? `Make ${chosen.length} pieces` : "Make a piece"}
          </Button>
        </aside>
      </main>
    </div>
  );
}
