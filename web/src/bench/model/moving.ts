import { allEntries, allLayers, changeEntry, isGroup, type Layer, type PieceDocument } from "./piece";

/**
 * The piece without a layer, where that layer can be seen to move over it as a picture of its own: it lies on top of all others, plainly, and
 * does not shape the frame. Null where what is seen of it hangs on more than its place.
 */
export function groundUnder(document: PieceDocument, layer: Layer): PieceDocument | null {
  const top = [...document.layers].reverse().find((entry) => entry.visible !== false);
  const plain = !layer.where && (layer.opacity ?? 1) === 1 && (layer.blend ?? "normal") === "normal";
  const group = top !== undefined && isGroup(top);
  const still = (group || layer.source.kind !== "below") && layer.source.fit !== "tile";
  const lowest = allLayers(document)[0];
  const shapes = allEntries(document.layers.filter((entry) => entry.id === layer.id)).some((entry) => entry.id === lowest?.id);
  if (top?.id !== layer.id || !plain || !still || shapes) return null;
  return changeEntry(document, layer.id, (entry) => [{ ...entry, visible: false }]);
}
