import type { Draft } from "../model/edits";

/** Give the artist the piece as a file of its own, as it is here. */
export function savePieceFile({ name, document: piece }: Draft): void {
  const url = URL.createObjectURL(new Blob([JSON.stringify(piece, null, 1)], { type: "application/json" }));
  const link = document.createElement("a");
  link.href = url;
  link.download = `${name}.caracol.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
