import type { ApiFault, SavedPiece } from "../../api/client";
import { begin, type Draft, type History } from "../model/edits";
import { MOST_TEXT, pack, unpack } from "../model/pack";
import { dropUnsaved, keepUnsaved, type Unsaved } from "./unsaved";

export type SaveState =
  | { kind: "saved" | "unsaved" | "saving" }
  | { kind: "lost" | "refused"; message: string }
  | { kind: "stale"; current: SavedPiece };

/** One save as it is sent. The same token sent twice is one save: an answer that got lost is asked for again. */
export interface Save {
  revision: number;
  token: string;
  /** The state, with what was done before and after it. */
  history: History;
}

/** Sends one save and returns the piece as it is kept; faults are thrown as `ApiFault`. `leaving` outlives the page. */
export type Send = (piece: string, save: Save, leaving: boolean) => Promise<SavedPiece>;

/** Keeps what was done before and after a state, beside the revision that was saved of it, in at most so many characters. */
export type Keep = (piece: string, revision: number, history: History, most: number) => Promise<void>;

const QUIET = 500;
const AGAIN = 3000;
/** So long, at most, is waited for quiet. */
const LONGEST = 2000;
/** So many characters of a history are kept in the browser, which has little room. */
const MOST_HERE = 1_500_000;
/** Below so many characters a history is not made shorter. */
const LEAST_HISTORY = 50_000;
/** Faults that pass by themselves: the save is tried again. */
const TRIED_AGAIN: ReadonlySet<string> = new Set(["connection", "disk", "busy", "not-ready"]);

/** A piece as it is edited; one that cannot be read comes without a document and never gets here. */
export function draftOf({ name, document }: SavedPiece): Draft {
  if (!document) throw new Error("a piece that cannot be read is not edited");
  return { name, document };
}

const alike = (a: SaveState, b: SaveState): boolean =>
  a.kind === b.kind &&
  ("message" in a ? a.message : undefined) === ("message" in b ? b.message : undefined) &&
  ("current" in a ? a.current : undefined) === ("current" in b ? b.current : undefined);

const same = (a: Draft, b: Draft): boolean => a.document === b.document && a.name === b.name;

/**
 * All saves of one piece, one at a time and in order. It belongs to the page and not to a screen: what is offered is sent a moment after
 * the last offer, at once when a screen is left, and kept in the browser where the page is closed before the server has answered.
 */
export class SaveQueue {
  revision: number;
  /** What the server has. */
  saved: Draft;
  /** What it should have, with what was done before and after. */
  wanted: History;
  private token: string | null = null;
  /** What waits in the browser is this queue's own, not another tab's. */
  private kept = false;
  /** The token of the save that is on its way. */
  private flying: string | null = null;
  /** The history that the server does not have yet, with the revision and token of the save it belongs to. */
  private unkept: { revision: number; token: string; history: History } | null = null;
  private keeping = false;
  /** When the oldest of what waits came. */
  private since: number | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private sending: Promise<boolean> | null = null;
  private trouble: Extract<SaveState, { kind: "lost" | "refused" | "stale" }> | null = null;
  private listeners = new Set<() => void>();
  private told: SaveState = { kind: "saved" };

  constructor(
    piece: SavedPiece,
    private readonly send: Send,
    private readonly keep: Keep,
  ) {
    this.id = piece.id;
    this.revision = piece.revision;
    this.saved = draftOf(piece);
    this.wanted = begin(this.saved);
  }

  readonly id: string;

  /** The state in words for the screen; the same object until it changes. */
  get state(): SaveState {
    return this.told;
  }

  get isClean(): boolean {
    return same(this.wanted.present, this.saved);
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Take the newest state; it is sent when all has been quiet for a moment, or goes on for long: a hand that drags is not waited for. */
  offer(history: History): void {
    if (history !== this.wanted) {
      if (!same(history.present, this.wanted.present)) this.token = null;
      this.wanted = history;
      // What was refused may be mended by an edit.
      if (this.trouble?.kind === "refused") this.trouble = null;
    }
    if (this.isClean) this.since = null;
    else this.since ??= Date.now();
    this.wait(Math.min(QUIET, Math.max(0, (this.since ?? 0) + LONGEST - Date.now())));
    this.tell();
  }

  /** Send what waits, now; true when the server has everything. */
  async flush(): Promise<boolean> {
    clearTimeout(this.timer);
    if (this.sending) await this.sending;
    if (this.isClean) {
      void this.keepHistory();
      return true;
    }
    if (this.trouble?.kind === "stale") return false;
    if (this.sending) return this.flush();
    this.sending = this.sendOnce(false);
    this.tell();
    const done = await this.sending;
    this.sending = null;
    this.tell();
    if (done && !this.isClean) this.wait(QUIET);
    return done && this.isClean;
  }

  /** Go on from a revision that came from elsewhere, with what is here. */
  goOnFrom(revision: number): void {
    this.revision = revision;
    this.trouble = null;
    this.token = null;
    this.wait(QUIET);
    this.tell();
  }

  /** Take the piece as the server has it, and forget what was not saved. */
  take(piece: SavedPiece): void {
    clearTimeout(this.timer);
    this.revision = piece.revision;
    this.saved = draftOf(piece);
    this.wanted = begin(this.saved);
    this.trouble = null;
    this.token = null;
    this.unkept = null;
    this.dropKept();
    this.tell();
  }

  /** Take up what an earlier page could not save: the same token, so that nothing is saved twice. */
  takeUp(unsaved: Unsaved, piece: SavedPiece): void {
    this.kept = true;
    this.wanted = unpack(unsaved.history, unsaved.draft);
    if (piece.save_token === unsaved.token) {
      // It arrived; only its answer did not.
      this.saved = this.wanted.present;
      this.unkept = { revision: piece.revision, token: unsaved.token, history: this.wanted };
      void this.keepHistory();
      return;
    }
    if (unsaved.saved) {
      // It arrived, and somebody went on from it: there is nothing left to save.
      this.wanted = begin(this.saved);
      this.dropKept();
      return;
    }
    // An earlier save of that page may have arrived.
    this.revision = unsaved.earlier.includes(piece.save_token) ? piece.revision : unsaved.revision;
    this.token = unsaved.token;
    void this.flush();
  }

  /** The page is going: what is not saved is kept in the browser, and sent in a way that outlives the page where that is possible. */
  leave(): void {
    if (this.isClean && !this.unkept) return;
    clearTimeout(this.timer);
    const flying = this.flying;
    this.keepHere();
    if (this.isClean || flying || this.trouble?.kind === "stale") return;
    this.sending = this.sendOnce(true).finally(() => {
      this.sending = null;
    });
  }

  /** Keep in the browser what the server does not have; false where the browser has no room for it. */
  keepHere(): boolean {
    if (this.isClean && !this.unkept) return true;
    this.kept = true;
    return keepUnsaved(this.id, {
      revision: this.revision,
      token: this.isClean && this.unkept ? this.unkept.token : this.ownToken(),
      earlier: this.flying ? [this.flying] : [],
      ...(this.isClean ? { saved: true } : {}),
      draft: this.wanted.present,
      history: pack(this.wanted, MOST_HERE),
    });
  }

  private dropKept(): void {
    if (this.kept) dropUnsaved(this.id);
    this.kept = false;
  }

  private ownToken(): string {
    this.token ??= newToken();
    return this.token;
  }

  private wait(milliseconds: number): void {
    clearTimeout(this.timer);
    if (this.isClean || this.trouble?.kind === "stale" || this.trouble?.kind === "refused") return;
    this.timer = setTimeout(() => void this.flush(), this.trouble ? AGAIN : milliseconds);
  }

  private async sendOnce(leaving: boolean): Promise<boolean> {
    this.flying = this.ownToken();
    this.since = null;
    const save: Save = { revision: this.revision, token: this.ownToken(), history: this.wanted };
    try {
      const piece = await this.send(this.id, save, leaving);
      this.revision = piece.revision;
      this.saved = save.history.present;
      this.trouble = null;
      if (this.token === save.token) this.token = null;
      this.unkept = { revision: piece.revision, token: save.token, history: save.history };
      void this.keepHistory();
      return true;
    } catch (error) {
      const fault = error as ApiFault;
      if (fault.code === "stale") this.trouble = { kind: "stale", current: (fault.details as { current: SavedPiece }).current };
      else this.trouble = { kind: TRIED_AGAIN.has(fault.code) ? "lost" : "refused", message: fault.message };
      if (this.trouble.kind === "lost") this.wait(AGAIN);
      return false;
    } finally {
      this.flying = null;
    }
  }

  /** Send the history in its own time, behind the save it belongs to: it never stops one. What is too large for the server is made shorter. */
  private async keepHistory(): Promise<void> {
    if (this.keeping) return;
    this.keeping = true;
    let most = MOST_TEXT;
    while (this.unkept) {
      const one = this.unkept;
      try {
        await this.keep(this.id, one.revision, one.history, most);
        if (this.unkept === one) this.unkept = null;
      } catch (error) {
        // Tried again with the next save, or when the page goes.
        if (TRIED_AGAIN.has((error as ApiFault).code)) break;
        most /= 2;
        if (most < LEAST_HISTORY) this.unkept = null;
      }
    }
    this.keeping = false;
    if (this.isClean && !this.unkept) this.dropKept();
  }

  private tell(): void {
    const now: SaveState = this.trouble ?? { kind: this.sending ? "saving" : this.isClean ? "saved" : "unsaved" };
    if (!alike(now, this.told)) this.told = now;
    for (const listener of this.listeners) listener();
  }
}

const newToken = (): string => crypto.randomUUID();
