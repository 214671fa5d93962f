import type { Draft } from "../model/edits";

/** What a page could not save before it was closed. */
export interface Unsaved {
  /** The revision it started from. */
  revision: number;
  token: string;
  /** Tokens of saves that were on their way: where one of them arrived, this goes on from there. */
  earlier: string[];
  draft: Draft;
}

const key = (piece: string): string => `caracol-unsaved-${piece}`;

/** Keep it in the browser; without room there, the save that outlives the page must do. */
export function keepUnsaved(piece: string, unsaved: Unsaved): void {
  try {
    localStorage.setItem(key(piece), JSON.stringify(unsaved));
  } catch (fault) {
    console.warn("The browser has no room for what was not saved.", fault);
  }
}

export const dropUnsaved = (piece: string): void => localStorage.removeItem(key(piece));

export function readUnsaved(piece: string): Unsaved | null {
  const text = localStorage.getItem(key(piece));
  return text ? (JSON.parse(text) as Unsaved) : null;
}
