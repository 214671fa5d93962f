import { allLayers, asLayer, changeEntry, type Entry, entryOf, freshIds, type Layer, type PieceDocument } from "./piece";

/** The layers below one, the nearest first. */
export function layersBelow(document: PieceDocument, layer: string): Layer[] {
  const layers = allLayers(document);
  return layers
    .slice(
      0,
      Math.max(
        0,
        layers.findIndex((one) => one.id === layer),
      ),
    )
    .reverse();
}

/** The layers and groups that have the same steps as one, by their link; itself not among them. */
export const linkedTo = (document: PieceDocument, id: string): Entry[] => {
  const link = entryOf(document, id)?.link;
  return link ? everyEntry(document.layers).filter((one) => one.id !== id && one.link === link) : [];
};

const everyEntry = (entries: Entry[]): Entry[] =>
  entries.flatMap((one) => ["layers" in one ? everyEntry(one.layers as Entry[]) : [], one].flat() as Entry[]);

/**
 * The document after the steps of a layer were edited, with the layers of its link edited alike. Each keeps the ids of its own steps: those
 * that stand at the same places belong together.
 */
export function editedAlike(before: PieceDocument, after: PieceDocument, id: string): PieceDocument {
  const [old, now] = [entryOf(before, id), entryOf(after, id)];
  if (!old || !now || asLayer(old).steps === asLayer(now).steps) return after;
  const places = new Map(asLayer(old).steps.map((step, n) => [step.id, n]));
  return linkedTo(after, id).reduce((document, other) => {
    const own = asLayer(other).steps;
    const missing = asLayer(now).steps.filter((step) => own[places.get(step.id) ?? -1] === undefined).length;
    const fresh = freshIds(document, missing);
    const steps = asLayer(now).steps.map((step) => ({ ...step, id: own[places.get(step.id) ?? -1]?.id ?? fresh.shift() ?? step.id }));
    return changeEntry(document, other.id, (entry) => [{ ...entry, steps }]);
  }, after);
}
