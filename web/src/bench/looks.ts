import { ApiFault, type Look, makeLook } from "../api/client";
import type { Part } from "./model/inView";
import type { PieceDocument } from "./model/piece";
import { Pace } from "./pace";

export interface Shown extends Omit<Look, "blob"> {
  url: string;
  /** What it shows. */
  of: Wanted;
  draft: boolean;
}

export interface Wanted {
  document: PieceDocument;
  /** How many steps of the layer, alone; null for the finished piece. */
  upto: number | null;
  layer: string | null;
  size: number;
  /** How long the picture's longer side is on the screen, so that a draft is never larger. */
  seen: number;
  /** Only this part of the picture is asked for. */
  part?: Part | null;
}

const PATIENCE = 90;
const SETTLE = 180;
/** A full picture that comes within so many milliseconds is waited for without a draft, where that is asked for. */
const SOON = 260;
/** So many pictures are held: the last shown, and what may still be on the screen while the next is decoded. */
const HELD = 3;

let counter = Date.now();

export const alike = (a: Wanted | null, b: Wanted | null): boolean =>
  a?.document === b?.document && a?.upto === b?.upto && a?.layer === b?.layer;

/**
 * The pictures of one place on the screen. While a hand drags, drafts: one request at a time, the newest wanted one next, and one that takes
 * long is cancelled for it. Otherwise a draft at once, and the full picture when nothing changes any more. It belongs to no render of the
 * Bench: a request leaves from the event that wants it, and a draft may be painted without one.
 */
export class Looks {
  readonly pace = new Pace();
  private flying = new Map<number, AbortController>();
  private waiting: { wanted: Wanted; draft: boolean } | null = null;
  private asked: Wanted | null = null;
  /** How long the last full picture took, in milliseconds. */
  private fullTook = Number.POSITIVE_INFINITY;
  /** When the full picture that is on its way was asked for. */
  private fullBegun: number | null = null;
  private newest = 0;
  private lastShown = 0;
  private urls: string[] = [];
  private hurry: ReturnType<typeof setTimeout> | undefined;
  private settling: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly bench: string,
    private readonly onShown: (shown: Shown) => void,
    private readonly onFault: (fault: string | null) => void,
  ) {}

  /**
   * Want this now. The end of a drag, or a change of the window, brings nothing new: no second draft. `direct` asks for the full picture at
   * once, where the last one came soon: after a stroke, which shows already.
   */
  want(wanted: Wanted, dragging: boolean, direct = false): void {
    clearTimeout(this.hurry);
    clearTimeout(this.settling);
    if (direct && !dragging && this.fullTook < SOON && !alike(this.asked, wanted)) {
      this.asked = wanted;
      this.ask(wanted, false);
      return;
    }
    if (!alike(this.asked, wanted)) this.ask(wanted, true);
    this.asked = wanted;
    this.hurry = setTimeout(() => {
      const next = this.waiting;
      if (next?.wanted === wanted && next.draft) {
        this.waiting = null;
        void this.send(next.wanted, next.draft);
      }
    }, PATIENCE);
    if (!dragging) this.settling = setTimeout(() => this.ask(wanted, false), SETTLE);
  }

  /** Milliseconds until the full picture is there, by how long the last one took; null where none is on its way, or none was made. */
  expected(): number | null {
    return this.fullBegun === null || !Number.isFinite(this.fullTook)
      ? null
      : Math.max(0, this.fullBegun + this.fullTook - performance.now());
  }

  /** Give the full picture up: what is shown stays. */
  stop(): void {
    this.rest();
    this.waiting = null;
    for (const flight of this.flying.values()) flight.abort();
  }

  /** Ask for the full picture after all. */
  sharpen(): void {
    if (this.asked) this.ask(this.asked, false);
  }

  /** Want nothing more. */
  rest(): void {
    clearTimeout(this.hurry);
    clearTimeout(this.settling);
  }

  private ask(wanted: Wanted, draft: boolean): void {
    // A full picture waits for the draft before it, so that something is seen soon.
    if (this.flying.size === 0) void this.send(wanted, draft);
    else this.waiting = { wanted, draft };
  }

  private async send(wanted: Wanted, draft: boolean): Promise<void> {
    counter += 1;
    const turn = counter;
    this.newest = turn;
    // What is overtaken is cancelled: the server stops working for it.
    for (const older of this.flying.values()) older.abort();
    const flight = new AbortController();
    this.flying.set(turn, flight);
    // Of a part, the rows it lies in are made: a picture as many times larger as they are fewer costs the same.
    const fewer = wanted.part ? Math.sqrt(wanted.part.bottom - wanted.part.top) : 1;
    const pace = this.pace.size(Math.min(wanted.seen, wanted.size) * fewer);
    const size = draft ? Math.min(Math.round(pace / fewer), wanted.size) : wanted.size;
    const begun = performance.now();
    this.fullBegun = draft ? null : begun;
    try {
      const { document, upto, layer } = wanted;
      const look = await makeLook(
        { document, upto, layer: upto === null ? null : layer, size, draft, part: wanted.part ?? null, bench: this.bench, turn },
        flight.signal,
      );
      const url = URL.createObjectURL(look.blob);
      const image = new Image();
      image.src = url;
      await image.decode();
      if (draft) this.pace.learn(pace, performance.now() - begun);
      else this.fullTook = performance.now() - begun;
      if (turn > this.lastShown) {
        this.lastShown = turn;
        this.urls.push(url);
        const { blob: _, ...told } = look;
        this.onShown({ ...told, url, of: wanted, draft });
        this.onFault(null);
        while (this.urls.length > HELD) URL.revokeObjectURL(this.urls.shift() ?? "");
      } else URL.revokeObjectURL(url);
    } catch (error) {
      const given = flight.signal.aborted || (error instanceof ApiFault && error.code === "superseded");
      if (turn === this.newest && !given) this.onFault((error as Error).message);
    } finally {
      this.flying.delete(turn);
      // One that was cancelled ends while its successor is still on its way: what waits, waits for that one.
      const next = this.flying.size === 0 ? this.waiting : null;
      if (next) {
        this.waiting = null;
        void this.send(next.wanted, next.draft);
      }
    }
  }
}
