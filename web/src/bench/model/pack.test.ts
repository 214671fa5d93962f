import { describe, expect, it } from "vitest";
import { begin, type History, record, redo, undo } from "./edits";
import { MOST_STATES, pack, packedText, unpack, unpackText } from "./pack";
import type { PieceDocument } from "./piece";

const document = {
  caracol: 3,
  layers: [{ id: "land", source: { kind: "photo", photo: "p" }, steps: [{ id: "a", kind: "twirl", settings: { turns: 0.1 } }] }],
} as unknown as PieceDocument;

function edited(times: number): History {
  let history = begin({ name: "Marsh", document });
  for (let n = 1; n <= times; n += 1) history = record(history, { type: "set", step: "a", settings: { turns: n / 100 } });
  return history;
}

const through = (history: History): History => unpack(JSON.parse(JSON.stringify(pack(history))), history.present);

describe("a packed history", () => {
  it("comes back state by state, with what was done", () => {
    const history = undo(undo(edited(8)));
    const back = through(history);
    expect(back.past).toEqual(history.past);
    expect(back.future).toEqual(history.future);
    expect(undo(back).present).toEqual(undo(history).present);
    expect(redo(redo(back)).present).toEqual(edited(8).present);
  });

  it("keeps what states share once", () => {
    const text = JSON.stringify(pack(edited(150)));
    expect(text.length).toBeLessThan(150 * 330);
    const { past } = through(edited(20));
    const sources = new Set(past.map((state) => (state.draft.document.layers[0] as { source: object }).source));
    expect(sources.size).toBe(1);
  });

  it("keeps the last two hundred states", () => {
    const back = through(edited(MOST_STATES + 30));
    expect(back.past).toHaveLength(MOST_STATES);
    expect(back.past.at(-1)).toEqual(edited(MOST_STATES + 30).past.at(-1));
  });

  it("gives up the oldest where it would be too large", () => {
    let history = begin({ name: "Marsh", document });
    for (let n = 0; n < 40; n += 1) {
      const points = Array.from({ length: 4000 }, (_, k) => [n + k / 4000, k]);
      history = record(history, { type: "set", step: "a", settings: { curve: points as never } });
    }
    for (const most of [1_500_000, 300_000]) {
      const text = packedText(history, most);
      expect(text.length).toBeLessThan(most * 1.02 + 1000);
      const back = unpackText(text, history.present);
      expect(back.past.length).toBeGreaterThan(most / 200_000);
      expect(back.past).toEqual(history.past.slice(-back.past.length));
    }
    // One state alone may be too large: then nothing is kept, and nothing of it is left behind.
    expect(pack(history, 50_000)).toEqual({ table: [], past: [], future: [] });
    expect(unpackText("{", history.present)).toEqual(begin(history.present));
  });

  it("tells long lists by what they differ in, from the present's where that is known", () => {
    const stroke = (n: number) => ({ mode: "erase", line: Array.from({ length: 60 }, (_, k) => n + k), on: true });
    let strokes = Array.from({ length: 200 }, (_, n) => stroke(n));
    let history = begin({ name: "Marsh", document });
    const set = () => {
      history = record(history, { type: "set", step: "a", settings: { strokes: strokes as never } });
    };
    set();
    for (let n = 0; n < 30; n += 1) {
      if (n % 3 === 0) strokes = [...strokes, stroke(1000 + n)];
      else if (n % 3 === 1) strokes = strokes.map((one, k) => (k === n ? { ...one, on: false } : one));
      else strokes = strokes.filter((_, k) => k !== n);
      set();
    }
    const text = packedText(history);
    // Of 370,000 numbers only those that are not in the present any more.
    expect(text.length).toBeLessThan(20_000);
    // The server gives the present back as another object.
    const present = JSON.parse(JSON.stringify(history.present));
    const back = unpackText(text, present);
    expect(back.past).toEqual(history.past);
    const inPast = back.past.at(-1)?.draft.document.layers[0]?.steps?.[0]?.settings.strokes as unknown[] | undefined;
    expect(inPast?.[0]).toBe(present.document.layers[0].steps[0].settings.strokes[0]);
    // Of another present it would be another history.
    expect(unpackText(text, { name: "Marsh", document })).toEqual(begin({ name: "Marsh", document }));
  });

  it("is nothing but the present where it cannot be read", () => {
    const present = { name: "Marsh", document };
    for (const odd of [null, undefined, {}, { table: 3, past: [], future: [] }, "text"])
      expect(unpack(odd, present)).toEqual(begin(present));
  });
});
