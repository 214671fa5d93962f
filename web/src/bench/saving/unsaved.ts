import { stored } from "../../shared/storage";
import type { Draft } from "../model/edits";
import type { Packed } from "../model/pack";

/** What a page could not save before it was closed. */
export interface Unsaved {
  /** The revision it started from. */
  revision: number;
  token: string;
  /** Tokens of saves that were on their way: where one of them arrived, this goes on from there. */
  earlier: string[];
  /** The state itself arrived; only what was done before it did not. */
  saved?: boolean;
  draft: Draft;
  /** History before and after, packed; left out where the browser has no room for it. */
  history?: Packed;
}

const key = (piece: string): string => `caracol-unsaved-${piece}`;

/** Keep it in the browser, without its history where there is little room; false where there is none, and the save that outlives the page must do. */
export const keepUnsaved = (piece: string, unsaved: Unsaved): boolean =>
  stored.write(key(piece), unsaved) || stored.write(key(piece), { ...unsaved, history: undefined });

export const dropUnsaved = (piece: string): void => stored.remove(key(piece));

export const readUnsaved = (piece: string): Unsaved | null => stored.read<Unsaved>(key(piece));
