// @vitest-environment jsdom
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ApiFault, type SavedPiece } from "../../api/client";
import { begin, type History, record, undo } from "../model/edits";
import { type Save, SaveQueue } from "./queue";
import { readUnsaved } from "./unsaved";

interface Sent {
  save: Save;
  leaving: boolean;
  answer: () => Promise<void>;
  fail: (fault: ApiFault) => Promise<void>;
}

const land = { caracol: 3, layers: [{ id: "land", steps: [] }] };
const piece = { id: "p1", name: "Marsh", revision: 1, save_token: "", faults: [], document: land } as unknown as SavedPiece;
const lost = new ApiFault("connection", "cannot be reached");
const stale = (revision: number) => new ApiFault("stale", "changed", { current: { ...piece, name: "Theirs", revision } });

let sent: Sent[];
let queue: SaveQueue;
let history: History;
/** Histories that were sent, and what the server answers to the next ones. */
let kept: { revision: number; most: number; states: number }[];
let refusals: ApiFault[];

async function keep(_: string, revision: number, of: History, most: number) {
  kept.push({ revision, most, states: of.past.length });
  const refusal = refusals.shift();
  if (refusal) throw refusal;
}

/** The server: what it would keep, and by which token, as the real one does. */
function server(start: SavedPiece) {
  return (_: string, save: Save, leaving: boolean) =>
    new Promise<SavedPiece>((done, failed) => {
      const rest = () => vi.advanceTimersByTimeAsync(0) as unknown as Promise<void>;
      sent.push({
        save,
        leaving,
        answer: async () => {
          done({ ...start, name: save.history.present.name, revision: save.revision + 1, save_token: save.token });
          await rest();
        },
        fail: async (fault) => {
          failed(fault);
          await rest();
        },
      });
    });
}

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  sent = [];
  kept = [];
  refusals = [];
  queue = new SaveQueue(piece, server(piece), keep);
  history = begin(queue.saved);
});
afterEach(() => vi.useRealTimers());

const wait = (milliseconds: number) => vi.advanceTimersByTimeAsync(milliseconds);
const nth = (index: number): Sent => {
  const found = sent[index];
  if (!found) throw new Error(`only ${sent.length} saves were sent`);
  return found;
};
const names = () => sent.map((one) => one.save.history.present.name);

function rename(name: string) {
  history = record(history, { type: "rename", name });
  queue.offer(history);
}

describe("saves of a piece", () => {
  it("wait for quiet, and none is sent where nothing was changed", async () => {
    queue.offer(history);
    await wait(5000);
    expect(sent).toHaveLength(0);
    rename("A");
    await wait(300);
    rename("B");
    await wait(300);
    expect(sent).toHaveLength(0);
    expect(queue.state.kind).toBe("unsaved");
    await wait(300);
    expect(names()).toEqual(["B"]);
    expect(queue.state.kind).toBe("saving");
    await nth(0).answer();
    expect(queue.state.kind).toBe("saved");
    expect(queue.revision).toBe(2);
  });

  it("go while a hand drags on and on", async () => {
    for (let n = 0; n < 12; n += 1) {
      rename(`A${n}`);
      await wait(200);
    }
    expect(names()).toHaveLength(1);
  });

  it("go one at a time, each from the revision the last one left, however many wait", async () => {
    rename("A");
    await wait(600);
    rename("B");
    const first = queue.flush();
    rename("C");
    const second = queue.flush();
    expect(names()).toEqual(["A"]);
    await nth(0).answer();
    await nth(1).answer();
    await wait(600);
    expect(names()).toEqual(["A", "C"]);
    expect(sent.map((one) => one.save.revision)).toEqual([1, 2]);
    expect(await first).toBe(true);
    expect(await second).toBe(true);
    expect(queue.revision).toBe(3);
  });

  it("are sent at once when a screen is left, and go on without it", async () => {
    rename("A");
    const left = queue.flush();
    expect(names()).toEqual(["A"]);
    await nth(0).answer();
    expect(await left).toBe(true);
  });

  it("are tried again after a lost connection, as the same save", async () => {
    rename("A");
    await wait(600);
    await nth(0).fail(lost);
    expect(queue.state).toMatchObject({ kind: "lost", message: "cannot be reached" });
    await wait(3100);
    expect(nth(1).save.token).toBe(nth(0).save.token);
    expect(nth(1).save.revision).toBe(1);
    await nth(1).answer();
    expect(queue.state.kind).toBe("saved");
  });

  it("get another token with every other state", async () => {
    rename("A");
    await wait(600);
    await nth(0).fail(lost);
    rename("B");
    await wait(3100);
    expect(nth(1).save.token).not.toBe(nth(0).save.token);
  });

  it("stop at a stale one until it is settled, and overwrite nothing by themselves", async () => {
    rename("A");
    await wait(600);
    await nth(0).fail(stale(5));
    expect(queue.state).toMatchObject({ kind: "stale", current: { revision: 5 } });
    rename("B");
    await wait(5000);
    expect(await queue.flush()).toBe(false);
    expect(sent).toHaveLength(1);
    queue.goOnFrom(5);
    await wait(600);
    expect(nth(1).save).toMatchObject({ revision: 5, history: { present: { name: "B" } } });
  });

  it("leave a refused state until the next edit may have mended it", async () => {
    rename("A");
    await wait(600);
    await nth(0).fail(new ApiFault("piece", "name: too long"));
    expect(queue.state).toMatchObject({ kind: "refused", message: "name: too long" });
    await wait(5000);
    expect(sent).toHaveLength(1);
    rename("B");
    await wait(600);
    expect(sent).toHaveLength(2);
  });

  it("give up what is here when the other is taken", async () => {
    rename("A");
    await wait(600);
    await nth(0).fail(stale(5));
    queue.take({ ...piece, name: "Theirs", revision: 5 });
    await wait(5000);
    expect(sent).toHaveLength(1);
    expect(queue.state.kind).toBe("saved");
    expect(queue.revision).toBe(5);
  });
});

describe("the history of a piece", () => {
  it("goes behind the save it belongs to, and never stops one", async () => {
    rename("A");
    await wait(600);
    expect(kept).toHaveLength(0);
    refusals = [lost];
    await nth(0).answer();
    expect(queue.state.kind).toBe("saved");
    expect(kept).toMatchObject([{ revision: 2, states: 1 }]);
    rename("B");
    await wait(600);
    await nth(1).answer();
    expect(kept.at(-1)).toMatchObject({ revision: 3, states: 2 });
  });

  it("is made shorter until it is taken, and cancelled where it never is", async () => {
    refusals = [new ApiFault("too-large", "too large"), new ApiFault("too-large", "too large")];
    rename("A");
    await wait(600);
    await nth(0).answer();
    const [first, second, third] = kept;
    expect(kept).toHaveLength(3);
    expect(second?.most).toBe((first?.most ?? 0) / 2);
    expect(third?.most).toBe((first?.most ?? 0) / 4);
    refusals = Array.from({ length: 50 }, () => new ApiFault("too-large", "too large"));
    rename("B");
    await wait(600);
    await nth(1).answer();
    expect(queue.state.kind).toBe("saved");
    expect(kept.length).toBeLessThan(20);
    expect(queue.keepHere()).toBe(true);
    expect(readUnsaved("p1")).toBeNull();
  });

  it("is kept in the browser where the page goes before it arrived, and asks for nothing where somebody went on", async () => {
    refusals = [lost];
    rename("A");
    await wait(600);
    await nth(0).answer();
    queue.leave();
    expect(sent).toHaveLength(1);
    const unsaved = readUnsaved("p1");
    if (!unsaved) throw new Error("nothing was kept");
    const arrived = { ...piece, name: "A", revision: 2, save_token: nth(0).save.token };
    const next = new SaveQueue(arrived, server(arrived), keep);
    next.takeUp(unsaved, arrived);
    expect(undo(next.wanted).present.name).toBe("Marsh");
    await wait(0);
    expect(kept.at(-1)).toMatchObject({ revision: 2, states: 1 });
    const theirs = { ...piece, name: "Theirs", revision: 3, save_token: "other" };
    const other = new SaveQueue(theirs, server(theirs), keep);
    other.takeUp(unsaved, theirs);
    await wait(5000);
    expect(sent).toHaveLength(1);
    expect(other.isClean).toBe(true);
    expect(other.revision).toBe(3);
  });
});

describe("a page that goes", () => {
  it("sends what is left in a way that outlives it, and keeps it in the browser until it is known to have arrived", async () => {
    rename("A");
    queue.leave();
    expect(nth(0)).toMatchObject({ leaving: true });
    expect(readUnsaved("p1")).toMatchObject({ revision: 1, token: nth(0).save.token, draft: { name: "A" } });
    await nth(0).answer();
    expect(readUnsaved("p1")).toBeNull();
  });

  it("leaves alone what another tab could not save", async () => {
    const other = new SaveQueue(piece, server(piece), keep);
    other.offer(record(begin(other.saved), { type: "rename", name: "Other tab" }));
    other.leave();
    rename("A");
    await wait(600);
    await nth(1).answer();
    expect(readUnsaved("p1")).toMatchObject({ draft: { name: "Other tab" } });
  });

  it("keeps nothing where all is saved", () => {
    queue.leave();
    expect(sent).toHaveLength(0);
    expect(readUnsaved("p1")).toBeNull();
  });

  it("is gone on from by the next: the same save is sent again, with the same token", async () => {
    rename("A");
    queue.leave();
    const unsaved = readUnsaved("p1");
    if (!unsaved) throw new Error("nothing was kept");
    const next = new SaveQueue(piece, server(piece), keep);
    next.takeUp(unsaved, piece);
    expect(nth(1).save).toMatchObject({ revision: 1, token: nth(0).save.token, history: { present: { name: "A" } } });
    await nth(1).answer();
    expect(readUnsaved("p1")).toBeNull();
  });

  it("may have had its last save arrive without an answer: then nothing is sent, and it can still be undone", async () => {
    rename("A");
    queue.leave();
    const unsaved = readUnsaved("p1");
    if (!unsaved) throw new Error("nothing was kept");
    const arrived = { ...piece, name: "A", revision: 2, save_token: nth(0).save.token };
    const next = new SaveQueue(arrived, server(arrived), keep);
    next.takeUp(unsaved, arrived);
    expect(sent).toHaveLength(1);
    expect(next.isClean).toBe(true);
    expect(next.revision).toBe(2);
    expect(undo(next.wanted).present.name).toBe("Marsh");
    expect(kept).toMatchObject([{ revision: 2, states: 1 }]);
    await wait(0);
    expect(readUnsaved("p1")).toBeNull();
  });

  it("may have had a save on its way: where that arrived, the next goes on from it", async () => {
    rename("A");
    await wait(600);
    rename("B");
    queue.leave();
    expect(sent).toHaveLength(1);
    const unsaved = readUnsaved("p1");
    if (!unsaved) throw new Error("nothing was kept");
    const arrived = { ...piece, name: "A", revision: 2, save_token: nth(0).save.token };
    const next = new SaveQueue(arrived, server(arrived), keep);
    next.takeUp(unsaved, arrived);
    expect(nth(1).save).toMatchObject({ revision: 2, history: { present: { name: "B" } } });
  });
});
