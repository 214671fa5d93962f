import type { Part } from "../model/inView";
import type { Layer, PieceDocument } from "../model/piece";
import { useBenchPart } from "../store";
import { type Shown, useLook, type Wanted } from "../useLook";

interface Asked {
  document: PieceDocument;
  layer: Layer;
  size: number;
  seen: number;
  part: Part | null;
}

/** The look to compare with: the layer's ground, the picture before the selected step, or a version. */
export function useCompared(bench: string, asked: Asked | null): { shown: Shown | null; label: string } {
  const { against, selected, showOriginal } = useBenchPart("against", "selected", "showOriginal");
  let wanted: Wanted | null = null;
  let label = "Original";
  if (asked) {
    const { document, layer, size, seen, part } = asked;
    const index = layer.steps.findIndex((step) => step.id === selected);
    wanted = { document, upto: 0, layer: layer.id, size, seen, part };
    if (!showOriginal && against.kind === "before" && index >= 0) {
      wanted = { ...wanted, upto: index };
      label = "Before the step";
    }
    if (!showOriginal && against.kind === "version") {
      wanted = { ...wanted, document: against.document, upto: null };
      label = against.name;
    }
  }
  return { shown: useLook(bench, wanted, false).shown, label };
}
