import { Alert, Button, Input, Spin } from "antd";
import { useDeferredValue, useRef, useState } from "react";
import type { Recipe } from "../api/client";
import { Head } from "../shared/Head";
import { More } from "../shared/More";
import { RecipeSide } from "./RecipeSide";
import { pictureOf, useRecipes } from "./useRecipes";
import "./RecipesPage.css";

/** The recipe book: what was kept, and what came with Caracol. */
export function RecipesPage() {
  const [search, setSearch] = useState("");
  const [chosenId, setChosenId] = useState<string | null>(null);
  const { book, change, copy, open, remove } = useRecipes(useDeferredValue(search));
  const file = useRef<HTMLInputElement>(null);
  const chosen = book.items.find((one) => one.id === chosenId) ?? book.items[0];
  return (
    <div className="app">
      <Head />
      <main className="shelf">
        <div className="shelf-main">
          <section aria-label="Recipes">
            <div className="shelf-bar">
              <h1>Recipes</h1>
              <Input.Search
                allowClear
                placeholder="Name or tag"
                aria-label="Search recipes"
                className="shelf-search"
                value={search}
                onChange={(event) => setSearch(event.target.value)}
              />
              <input
                ref={file}
                type="file"
                accept=".json"
                hidden
                aria-label="Recipe files"
                onChange={(event) => {
                  for (const one of event.target.files ?? []) open.mutate(one, { onSuccess: (recipe) => setChosenId(recipe.id) });
                  event.target.value = "";
                }}
              />
              <Button onClick={() => file.current?.click()}>Import a recipe</Button>
            </div>
            {book.isPending && <Spin description="Loading recipes" />}
            {book.error && <Alert type="error" showIcon title={book.error.message} />}
            <div className="cards recipes">
              {book.items.map((recipe) => (
                <RecipeCard key={recipe.id} recipe={recipe} chosen={recipe === chosen} onChoose={() => setChosenId(recipe.id)} />
              ))}
            </div>
            <More pages={book} />
            {book.isSuccess && !book.items.length && (
              <div className="drop">
                <h2>{search ? "No recipe found" : "No recipes yet"}</h2>
                <p className="quiet">
                  {search ? "Search looks in names and tags." : "To save a piece as a recipe, open it on the Bench and press Recipes."}
                </p>
              </div>
            )}
          </section>
        </div>
        {chosen && (
          <RecipeSide
            key={chosen.id}
            recipe={chosen}
            onChange={(to) => change.mutate({ id: chosen.id, to })}
            onCopy={() => copy.mutate(chosen.id, { onSuccess: (made) => setChosenId(made.id) })}
            onDelete={() => remove.mutate(chosen)}
          />
        )}
      </main>
    </div>
  );
}

function RecipeCard({ recipe, chosen, onChoose }: { recipe: Recipe; chosen: boolean; onChoose: () => void }) {
  const [none, setNone] = useState(false);
  return (
    <button type="button" className={`bare card ${chosen ? "chosen" : ""}`} aria-pressed={chosen} onClick={onChoose}>
      {none || recipe.faults.length > 0 ? (
        <span className="card-picture unreadable">{recipe.faults.length ? "This version cannot read it" : "No photo to show it on"}</span>
      ) : (
        <img className="card-picture" src={pictureOf(recipe)} alt="" loading="lazy" onError={() => setNone(true)} />
      )}
      <span className="card-body">
        <strong className="clip" title={recipe.name}>
          {recipe.name}
        </strong>
        <span className="quiet small clip">{recipe.tags.join(" · ") || "no tags"}</span>
      </span>
    </button>
  );
}
