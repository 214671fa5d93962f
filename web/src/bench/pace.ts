/** Sizes of drafts, so that pictures of the same size follow each other: the server keeps what lies before the step that is dragged. */
const SIZES = [320, 384, 448, 512, 576, 640, 704, 768] as const;
export const LARGEST = 768;
/** On a small stage, where even the smallest of them is too large. */
const GRAIN = 64;
/** Milliseconds a draft may take, from the request to the picture on the screen. */
const SLOW = 60;
const QUICK = 36;
const LOOKED_AT = 3;
/** A smaller size must take a twentieth less at least; below the smallest a picture says too little. */
const WORTH = 0.95;

/**
 * How large drafts are on this machine, for this piece: smaller when pictures take longer than the hand waits, larger again when there is time.
 * The first draft of a size says nothing: what lies before the step is computed for it.
 */
export class Pace {
  private most: number = LARGEST;
  private recent: number[] = [];
  private first = true;
  /** What was usual before this drag's last step down (after one, it takes none up: at each new size, what lies before the step is made anew), and whether steps down have been seen to be of no use. */
  private before: { size: number; usual: number } | null = null;
  private useless = false;

  /** The size to ask for where the picture is seen at `seen` pixels. */
  size(seen: number): number {
    // Stretched more than twice, a draft says too little of what the hand does.
    const half = seen / 2 / (globalThis.devicePixelRatio || 1);
    this.most = Math.max(this.most, Math.min(SIZES.find((size) => size >= half) ?? LARGEST, LARGEST));
    const most = Math.min(this.most, seen);
    return SIZES.findLast((size) => size <= most) ?? Math.max(GRAIN, Math.floor(most / GRAIN) * GRAIN);
  }

  /** A drag begins: its first draft may have to compute much that is kept afterwards. */
  begin(): void {
    this.before = null;
    this.useless = false;
    this.again();
  }

  private again(): void {
    this.first = true;
    this.recent = [];
  }

  /** Be told how long a draft of a size took. */
  learn(size: number, took: number): void {
    if (this.first || size > this.most) {
      this.first = false;
      return;
    }
    this.recent.push(took);
    if (this.recent.length < LOOKED_AT) return;
    const usual = [...this.recent].sort((a, b) => a - b)[Math.floor(LOOKED_AT / 2)] ?? SLOW;
    // Where the time goes elsewhere than into pixels, a smaller picture is only a softer one.
    if (this.before && size < this.before.size && usual > WORTH * this.before.usual) {
      this.useless = true;
      this.change(this.before.size);
    } else if (usual > SLOW && !this.useless) {
      this.before = { size, usual };
      this.change(SIZES.findLast((one) => one <= size * Math.sqrt(SLOW / usual)) ?? SIZES[0]);
    } else if (usual < QUICK && size === this.most && !this.before) this.change(SIZES.find((one) => one > size) ?? LARGEST);
    else this.recent.shift();
  }

  private change(to: number): void {
    if (to === this.most) this.recent.shift();
    else {
      this.most = to;
      this.again();
    }
  }
}
