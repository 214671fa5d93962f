import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Alert, Button, Spin } from "antd";
import { useCallback, useMemo, useState } from "react";
import { useDropzone } from "react-dropzone";
import { Link, useLocation, useParams } from "react-router";
import { api, type Photo, type Try, take } from "../api/client";
import { StartRun } from "../runs/StartRun";
import { Head } from "../shared/Head";
import { usePicks } from "../shared/usePicks";
import { UploadTray } from "../shelf/UploadTray";
import { useUploads } from "../shelf/useUploads";
import { Dials } from "./Dials";
import { SlotLine } from "./SlotLine";
import { keyOf, TrySheet } from "./TrySheet";
import { useMakePieces, useRecipe } from "./useRecipes";
import { useSettled } from "./useSettled";
import "./RecipesPage.css";

const inWords = (count: number) => (count === 1 ? "one photo" : `${count} photos`);
const NOTHING: Try[] = [];
const NONE = {};

/** One recipe on every photo of the Shelf, or on those that were picked there; dropped files and folders join them. */
export function TryRecipePage() {
  const { recipeId } = useParams();
  const recipe = useRecipe(recipeId);
  const { data, isPending, error } = useQuery({
    queryKey: ["recipes", "tries", recipeId],
    queryFn: () => take(api.GET("/api/v1/recipes/{recipe_id}/try-ons", { params: { path: { recipe_id: recipeId ?? "" } } })),
    retry: false,
  });
  const asked = useLocation().state as { photos?: string[] } | null;
  const [only, setOnly] = useState<readonly string[] | null>(asked?.photos ?? null);
  const tries = useMemo(() => (only ? (data ?? NOTHING).filter((one) => only.includes(one.photo)) : (data ?? NOTHING)), [data, only]);
  const [dials, setDials] = useState<Record<string, number>>({});
  const [slots, setSlots] = useState<Record<string, string>>({});
  const settled = useSettled(dials);
  const { picked, pick, chosen, none, all, add } = usePicks(
    tries,
    keyOf,
    (only ?? []).map((photo) => keyOf({ recipe: recipeId ?? "", photo })),
  );
  const make = useMakePieces();
  const queries = useQueryClient();
  const onAdded = useCallback(
    (photo: Photo) => {
      setOnly((now) => now && [...now, photo.file_name]);
      add(keyOf({ recipe: recipeId ?? "", photo: photo.file_name }));
      return queries.invalidateQueries({ queryKey: ["recipes", "tries", recipeId] });
    },
    [add, queries, recipeId],
  );
  const uploads = useUploads(onAdded);
  const drop = useDropzone({ onDrop: uploads.add, noClick: true, noKeyboard: true });
  const fault = error ?? recipe.error;
  return (
    <div className="app">
      <Head />
      <main className={`shelf ${drop.isDragActive ? "dropping" : ""}`} {...drop.getRootProps({ role: "main" })}>
        <div className="shelf-main">
          <UploadTray uploads={uploads.uploads} notes={uploads.notes} onDismiss={uploads.dismiss} onClearNotes={uploads.clearNotes} />
          <section aria-label="Try-on">
            <div className="try-bar">
              <h1>{recipe.data ? `${recipe.data.name} on ${only ? inWords(tries.length) : "your photos"}` : "Try-on"}</h1>
              <input {...drop.getInputProps()} aria-label="Photos to try it on" />
              <span className="row">
                {only && (
                  <Button size="small" onClick={() => setOnly(null)}>
                    On all photos
                  </Button>
                )}
                <Button size="small" onClick={drop.open} title="Or drop photos, or a folder of them, on this page">
                  Add photos
                </Button>
                <Link to="/recipes">Back to the recipes</Link>
              </span>
            </div>
            {isPending && <Spin description="Finding what suits" />}
            {fault && <Alert type="error" showIcon title={fault.message} />}
            {data && !tries.length && (
              <p className="quiet">
                {data.length ? "Those photos are no longer on the Shelf." : "There is no photo yet: drop some here, or a folder of them."}
              </p>
            )}
            {data && recipe.data && (
              <TrySheet
                tries={tries}
                named={(one) => one.photo_name}
                changed={() => recipe.data.changed_at}
                dials={settled}
                slots={slots}
                picked={picked}
                onPick={pick}
              />
            )}
          </section>
        </div>
        <aside className="side" aria-label="Dials for all">
          <h2>Settings for all</h2>
          {recipe.data && recipe.data.dials.length > 0 ? (
            <>
              <Dials dials={recipe.data.dials} values={dials} onChange={setDials} />
              <Button className="at-start" size="small" disabled={!Object.keys(dials).length} onClick={() => setDials({})}>
                Reset
              </Button>
            </>
          ) : (
            <p className="quiet">This recipe has no dials.</p>
          )}
          {recipe.data?.slots.slice(1).map((slot) => (
            <SlotLine
              key={slot.layer}
              label={slot.label || slot.layer}
              cutOut={recipe.data.cut_outs.includes(slot.layer)}
              photo={slots[slot.layer]}
              placeholder="Automatic"
              onChange={(photo) => setSlots({ ...slots, [slot.layer]: photo })}
              onClear={() => setSlots(Object.fromEntries(Object.entries(slots).filter(([layer]) => layer !== slot.layer)))}
            />
          ))}
          <h3>{chosen.length ? `${chosen.length} selected` : "Select photos"}</h3>
          <Button
            type="primary"
            size="large"
            disabled={!chosen.length}
            loading={make.isPending}
            onClick={() =>
              make.mutate({ recipe: recipeId ?? "", photos: chosen.map((one) => one.photo), dials, slots }, { onSuccess: none })
            }
          >
            {chosen.length > 1 ? `Make ${chosen.length} pieces` : "Make a piece"}
          </Button>
          {tries.length > 1 && (
            <Button className="at-start" size="small" type="text" onClick={() => (chosen.length === tries.length ? none() : all())}>
              {chosen.length === tries.length ? "Select none" : `Select all ${tries.length}`}
            </Button>
          )}
          <StartRun recipe={recipeId ?? ""} photos={chosen.map((one) => one.photo)} dials={dials} slots={slots} />
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
    queryFn: () => take(api.GET("/api/v1/photos/{photo_id}/try-ons", { params: { path: { photo_id: photoId ?? "" } } })),
    retry: false,
  });
  const { picked, pick, chosen, none } = usePicks(data ?? NOTHING, keyOf);
  const make = useMakePieces();
  const makeAll = async () => {
    for (const one of chosen)
      await make.mutateAsync({ recipe: one.recipe, photos: [one.photo], dials: {}, slots: NONE, stay: chosen.length > 1 });
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
            {isPending && <Spin description="Finding what suits" />}
            {error && <Alert type="error" showIcon title={error.message} />}
            {data && !data.length && <p className="quiet">There are no recipes yet.</p>}
            {data && (
              <TrySheet
                tries={data}
                named={(one) => one.recipe_name}
                changed={() => ""}
                dials={NONE}
                slots={NONE}
                picked={picked}
                onPick={pick}
              />
            )}
          </section>
        </div>
        <aside className="side" aria-label="Selected">
          <h2>{chosen.length ? `${chosen.length} selected` : "Select recipes"}</h2>
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
