import { useMutation } from "@tanstack/react-query";
import { App, Button, Input } from "antd";
import { useDeferredValue, useState } from "react";
import type { Recipe } from "../../api/client";
import { Dials } from "../../recipes/Dials";
import { SlotLine } from "../../recipes/SlotLine";
import { pictureOf, useRecipes } from "../../recipes/useRecipes";
import { More } from "../../shared/More";
import { useBenchPart, useDocument } from "../store";
import { KeepRecipe } from "./KeepRecipe";
import { filledWith, firstPhotos, isFilled, photosOf, putInPlace } from "./using";
import "./RecipesPanel.css";

/** Recipes from the book, seen on this piece's photo; and the way into the book. */
export function RecipesPanel() {
  const [search, setSearch] = useState("");
  const { book } = useRecipes(useDeferredValue(search));
  const [chosen, setChosen] = useState<string | null>(null);
  const document = useDocument();
  const [photo] = photosOf(document);
  return (
    <aside className="panel" aria-label="Recipes">
      <div className="panel-head">
        <h2>Recipes</h2>
        <p className="quiet">A recipe takes the place of all steps and layers, on the photo that is here. One undo takes it back.</p>
      </div>
      <Input
        allowClear
        size="small"
        placeholder="Name or tag"
        aria-label="Search recipes"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <ul className="recipe-list">
        {book.items
          .filter((recipe) => !recipe.faults.length)
          .map((recipe) => (
            <li key={recipe.id} className={recipe.id === chosen ? "chosen" : ""}>
              <button
                type="button"
                className="bare recipe-line"
                aria-expanded={recipe.id === chosen}
                onClick={() => setChosen(recipe.id === chosen ? null : recipe.id)}
              >
                <img src={pictureOf(recipe, photo, {}, 128)} alt="" loading="lazy" />
                <span>
                  <strong>{recipe.name}</strong>
                  <span className="quiet small">{recipe.tags.join(" · ")}</span>
                </span>
              </button>
              {recipe.id === chosen && <UseRecipe recipe={recipe} />}
            </li>
          ))}
      </ul>
      <More pages={book} />
      <KeepRecipe />
    </aside>
  );
}

/** What is chosen before a recipe takes the piece's place: its dials, its photos; and a look at it beside what is here. */
function UseRecipe({ recipe }: { recipe: Recipe }) {
  const { patch } = useBenchPart("patch");
  const document = useDocument();
  const { message } = App.useApp();
  const [dials, setDials] = useState<Record<string, number>>({});
  const [photos, setPhotos] = useState(() => firstPhotos(recipe, document));
  const tell = (fault: Error) => void message.error(fault.message);
  const compare = useMutation({
    mutationFn: () => filledWith(recipe.id, photos, dials),
    onSuccess: (made) =>
      patch({ against: { kind: "version", id: recipe.id, document: made as never, name: recipe.name }, beside: true, split: null }),
    onError: tell,
  });
  const use = useMutation({
    mutationFn: () => filledWith(recipe.id, photos, dials),
    onSuccess: (made) => putInPlace({ id: recipe.id, name: recipe.name, dials }, made),
    onError: tell,
  });
  const ready = isFilled(recipe, photos);
  return (
    <div className="recipe-use">
      <Dials dials={recipe.dials} values={dials} onChange={setDials} />
      {(recipe.slots.length > 1 || !ready) &&
        recipe.slots.map((slot) => (
          <SlotLine
            key={slot.layer}
            label={slot.label || slot.layer}
            cutOut={recipe.cut_outs.includes(slot.layer)}
            photo={photos[slot.layer]}
            onChange={(photo) => setPhotos({ ...photos, [slot.layer]: photo })}
          />
        ))}
      <div className="row">
        <Button type="primary" disabled={!ready} loading={use.isPending} onClick={() => use.mutate()}>
          Use it
        </Button>
        <Button disabled={!ready} loading={compare.isPending} onClick={() => compare.mutate()}>
          Compare
        </Button>
      </div>
    </div>
  );
}
