import { api, type Document, type Recipe, take } from "../../api/client";
import { stored } from "../../shared/storage";
import { allLayers, type PieceDocument } from "../model/piece";
import { useBench } from "../store";

const LAST = "caracol-last-recipe";

interface Last {
  id: string;
  name: string;
  dials: Record<string, number>;
}

/** The photos of a piece, from the lowest layer up. */
export const photosOf = (document: PieceDocument): string[] =>
  allLayers(document).flatMap((layer) => (typeof layer.source?.photo === "string" ? [layer.source.photo] : []));

/** Which photo goes into which slot at first: the piece's own, in their order; a slot that none is left for stays open. */
export function firstPhotos(recipe: Pick<Recipe, "slots">, document: PieceDocument): Record<string, string> {
  const photos = photosOf(document);
  return Object.fromEntries(recipe.slots.flatMap((slot, index) => (photos[index] ? [[slot.layer, photos[index]]] : [])));
}

export const isFilled = (recipe: Pick<Recipe, "slots">, photos: Record<string, string>) => recipe.slots.every((slot) => photos[slot.layer]);

/** The piece that a recipe makes. */
export const filledWith = async (id: string, photos: Record<string, string>, dials: Record<string, number>): Promise<Document> =>
  (await take(api.POST("/api/v1/recipes/{recipe_id}/documents", { params: { path: { recipe_id: id } }, body: { photos, dials } })))
    .document;

/** Put a recipe in place of what the piece is; one undo takes it back. */
export function putInPlace(recipe: Last, document: Document | PieceDocument): void {
  const { edit, patch } = useBench.getState();
  stored.write(LAST, { id: recipe.id, name: recipe.name, dials: recipe.dials });
  edit({ type: "replace", document: document as PieceDocument, what: `recipe: ${recipe.name}` });
  patch({ selected: null, split: null, beside: false, against: { kind: "original" } });
}

/** Use the last recipe again, on this piece's photos. */
export async function lastAgain(tell: (words: string) => void): Promise<void> {
  const last = stored.read<Last>(LAST);
  if (!last) return tell("No recipe was used yet.");
  const { document } = useBench.getState().history.present;
  try {
    const recipe = await take(api.GET("/api/v1/recipes/{recipe_id}", { params: { path: { recipe_id: last.id } } }));
    const photos = firstPhotos(recipe, document);
    if (!isFilled(recipe, photos)) return tell(`${recipe.name} needs more photos than this piece has. Choose them under Recipes.`);
    const filled = (await filledWith(last.id, photos, last.dials)) as PieceDocument;
    putInPlace(last, filled);
    const count = allLayers(filled).length;
    tell(`${recipe.name} again, on ${count === 1 ? "one layer" : `${count} layers`}; Ctrl + Z undoes it.`);
  } catch (fault) {
    tell((fault as Error).message);
  }
}
