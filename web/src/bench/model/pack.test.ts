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

  it("is nothing but the present where it cannot be read", () => {
    const present = { name: "Marsh", document };
    for (const odd of [null, undefined, {}, { table: 3, past: [], future: [] }, "text"])
      expect(unpack(odd, present)).toEqual(begin(present));
  });
});
