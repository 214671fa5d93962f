import { describe, expect, it } from "vitest";
import { begin, type Draft, type Edit, MOST_PAST, record, redo, travel, undo } from "./edits";
import { freshIds, stepsOf } from "./piece";

const draft = (...kinds: string[]): Draft => ({
  name: "Planet",
  document: {
    caracol: 3,
    layers: [
      {
        id: "land",
        source: { kind: "photo", photo: "a.jpg" },
        steps: kinds.map((kind, n) => ({ id: `s${n + 1}`, kind, settings: { a: 1 }, strength: 0.5 })),
      },
    ],
  },
});
const kindsOf = (d: Draft) => stepsOf(d.document).map((step) => step.kind);
const run = (d: Draft, ...edits: Edit[]) => edits.reduce((history, edit) => record(history, edit), begin(d));

describe("edits", () => {
  it("adds, removes, moves and switches steps", () => {
    const history = run(
      draft("ring", "tone"),
      { type: "add", at: 1, steps: [{ id: "x", kind: "rim", settings: {} }] },
      { type: "move", step: "s2", to: 0 },
      { type: "remove", step: "s1" },
      { type: "switch", step: "x", on: false },
    );
    expect(kindsOf(history.present)).toEqual(["tone", "rim"]);
    expect(stepsOf(history.present.document)[1]?.on).toBe(false);
  });

  it("sets some settings and carries everything else along", () => {
    const { present } = run(draft("ring"), { type: "set", step: "s1", settings: { b: 2 } });
    expect(stepsOf(present.document)[0]).toEqual({ id: "s1", kind: "ring", settings: { a: 1, b: 2 }, strength: 0.5 });
  });

  it("are remembered up to a bound: the oldest go", () => {
    let history = begin(draft("ring"));
    for (let a = 0; a < MOST_PAST + 20; a += 1) history = record(history, { type: "set", step: "s1", settings: { a: a + 2 } });
    expect(history.past).toHaveLength(MOST_PAST);
    expect(stepsOf(travel(history, -MOST_PAST).present.document)[0]?.settings.a).toBe(21);
  });

  it("are taken back one by one where the hand did them one by one", () => {
    const set = (a: number, gesture: string): Edit => ({ type: "set", step: "s1", settings: { a }, gesture });
    for (const gesture of ["s1-reset", "reset", "s1-delete"]) {
      const history = record(record(begin(draft("ring")), set(2, gesture)), set(3, gesture));
      expect(history.past).toHaveLength(2);
    }
  });

  it("takes a whole drag back at once, and only that", () => {
    const drag = (a: number, gesture: string): Edit => ({ type: "set", step: "s1", settings: { a }, gesture });
    const history = run(draft("ring"), drag(2, "d1"), drag(3, "d1"), drag(4, "d2"), drag(5, "d2"));
    expect(history.past).toHaveLength(2);
    expect(stepsOf(undo(history).present.document)[0]?.settings.a).toBe(3);
    expect(stepsOf(undo(undo(history)).present.document)[0]?.settings.a).toBe(1);
  });

  it("does not join a drag with what was done before an undo", () => {
    const drag = (a: number): Edit => ({ type: "set", step: "s1", settings: { a }, gesture: "d" });
    const history = record(undo(run(draft("ring"), drag(2))), drag(3));
    expect(history.past).toHaveLength(1);
    expect(history.future).toHaveLength(0);
  });

  it("goes forty edits back and forward to the same document", () => {
    let history = begin(draft("ring"));
    for (let n = 0; n < 40; n += 1) history = record(history, { type: "set", step: "s1", settings: { a: n } });
    const last = JSON.stringify(history.present);
    for (let n = 0; n < 45; n += 1) history = undo(history);
    expect(history.present).toEqual(draft("ring"));
    for (let n = 0; n < 45; n += 1) history = redo(history);
    expect(JSON.stringify(history.present)).toBe(last);
  });

  it("leaves the draft it started from as it was", () => {
    const first = draft("ring", "tone");
    const copy = structuredClone(first);
    run(first, { type: "remove", step: "s1" }, { type: "rename", name: "Other" });
    expect(first).toEqual(copy);
  });

  it("finds ids that are free", () => {
    expect(freshIds(draft("a", "b").document, 2)).toEqual(["s3", "s4"]);
    expect(freshIds(run(draft("a", "b", "c"), { type: "remove", step: "s1" }).present.document, 1)).toEqual(["s4"]);
  });
});
