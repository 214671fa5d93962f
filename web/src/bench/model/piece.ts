/**
 * The piece document as the Bench edits it. The server checks it against docs/piece.schema.json; here only what edits touch is
 * named, and everything else (strength, where, …) is carried along unchanged.
 */
export type SettingValue = number | string | boolean | number[][] | null;
export type Settings = Record<string, SettingValue>;

export interface Step {
  id: string;
  kind: string;
  on?: boolean;
  settings: Settings;
  [more: string]: unknown;
}

export interface Layer {
  id: string;
  name?: string;
  source: { kind: string; photo: string | null };
  steps: Step[];
  [more: string]: unknown;
}

export interface PieceDocument {
  caracol: number;
  layers: Layer[];
  [more: string]: unknown;
}

export const layerOf = (document: PieceDocument): Layer => {
  const layer = document.layers[0];
  if (!layer) throw new Error("a piece has at least one layer");
  return layer;
};

export const stepsOf = (document: PieceDocument): Step[] => layerOf(document).steps;

export const withSteps = (document: PieceDocument, steps: Step[]): PieceDocument => ({
  ...document,
  layers: [{ ...layerOf(document), steps }, ...document.layers.slice(1)],
});

/** Return `count` ids that no step of the document has. */
export function freshIds(document: PieceDocument, count: number): string[] {
  const taken = new Set(stepsOf(document).map((step) => step.id));
  const fresh: string[] = [];
  for (let number = taken.size + 1; fresh.length < count; number += 1) {
    if (!taken.has(`s${number}`)) fresh.push(`s${number}`);
  }
  return fresh;
}
