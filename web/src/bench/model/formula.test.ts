import { describe, expect, it } from "vitest";
import { knobsIn, tokensOf } from "./formula";

const words = { functions: ["wave", "min"], constants: ["pi"], variables: ["x", "y", "rad", "ang"] };

describe("formula lines", () => {
  it("are cut without losing a character", () => {
    const line = "x + h*wave(y / 1.5e-2) $ é";
    const tokens = tokensOf(line, words);
    expect(tokens.map((t) => t.text).join("")).toBe(line);
    expect(tokens.find((t) => t.text === "wave")).toEqual({ kind: "function", text: "wave", column: 7 });
    expect(tokens.filter((t) => t.kind === "stray").map((t) => t.text)).toEqual(["$", "é"]);
    expect(tokens.find((t) => t.kind === "number")?.text).toBe("1.5e-2");
  });

  it("name their knobs once, in order", () => {
    expect(knobsIn(["b * x + a", "a + pi + wave(c)"], words)).toEqual(["b", "a", "c"]);
  });
});
