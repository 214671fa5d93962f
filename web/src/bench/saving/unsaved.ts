import type { Draft } from "../model/edits";
import type { Packed } from "../model/pack";

/** What a page could not save before it was closed. */
export interface Unsaved {
  /** The revision it started from. */
  revision: number;
  token: string;
  /** Tokens of saves that were on their way: where one of them arrived, this goes on from there. */
  earlier: string[];
  draft: Draft;
  /** What was done before and after, packed; left out where the browser has no room for it. */
  history?: Packed;
}

const key = (piece: string): string => `caracol-unsaved-${piece}`;

/** Keep it in the browser; without room there, the save that outlives the page must do. */
export function keepUnsaved(piece: string, unsaved: Unsaved): void {
  for (const kept of [unsaved, { ...unsaved, history: undefined }]) {
    try {
      localStorage.setItem(key(piece), JSON.stringify(kept));
      return;
    } catch (fault) {
      console.warn("The browser has no room for what was not saved.", fault);
    }
  }
}

export const dropUnsaved = (piece: string): void => localStorage.removeItem(key(piece));

export function readUnsaved(piece: string): Unsaved | null {
  const text = localStorage.getItem(key(piece));
  return text ? (JSON.parse(text) as Unsaved) : null;
}
