import { describe, expect, it } from "vitest";
import type { Shape } from "./piece";
import { addShape, boxOf, changeShape, erased, joinOf, NOWHERE, simplified, withoutShape } from "./where";

describe("a where", () => {
  const one = addShape(null, { kind: "ellipse", x: 0 });
  it("gains, changes and loses shapes", () => {
    const two = addShape(one, { kind: "bands", join: "subtract" });
    expect(two.shapes.map((s) => s.kind)).toEqual(["ellipse", "bands"]);
    expect(changeShape(two, 0, { x: 0.5 }).shapes[0]).toEqual({ kind: "ellipse", x: 0.5 });
    expect(withoutShape(two, 0)?.shapes).toEqual([{ kind: "bands", join: "subtract" }]);
  });

  it("is none at all without shapes, unless it is turned inside out", () => {
    expect(withoutShape(one, 0)).toBeNull();
    expect(withoutShape({ ...one, invert: true }, 0)).toEqual({ shapes: [], feather: 0, invert: true });
  });

  it("keeps the corners of a drawn line and nothing between", () => {
    const line = [0, 0.1, 0.2, 0.3, 0.4, 0.5].map((x) => ({ x, y: 0 }));
    const bent = [...line, { x: 0.5, y: 0.25 }, { x: 0.5, y: 0.5 }];
    expect(simplified(bent, 0.01)).toEqual([
      { x: 0, y: 0 },
      { x: 0.5, y: 0 },
      { x: 0.5, y: 0.5 },
    ]);
  });

  it("spans a box between two corners", () => {
    expect(boxOf({ x: 1, y: 0.5 }, { x: -0.5, y: -0.5 })).toEqual({ x: 0.25, y: 0, rx: 0.75, ry: 0.5 });
  });
});

describe("an erased stroke", () => {
  const stroke = { kind: "stroke", points: [[0, 0]], radius: 0.1, hardness: 1 } as Shape;
  it("takes away from everywhere, where nothing was said yet", () => {
    for (const empty of [null, NOWHERE])
      expect(erased(empty, stroke)).toEqual({ ...NOWHERE, invert: true, shapes: [{ ...stroke, join: "add" }] });
  });
  it("goes on taking away from a where that is turned inside out, and painting gives back", () => {
    const once = erased(null, stroke);
    expect(joinOf(once, true)).toBe("add");
    expect(joinOf(once, false)).toBe("subtract");
    expect(joinOf({ ...once, invert: false }, true)).toBe("subtract");
    expect(joinOf(null, false)).toBe("add");
  });
});
