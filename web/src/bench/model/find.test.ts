import { describe, expect, it } from "vitest";
import type { OwnFormula } from "../../api/client";
import { catalogue } from "../../testing/catalogue";
import { choicesOf, found, missed } from "./find";

const OWN = [{ id: "1", name: "Low tide", settings: { system: "flat", first: "x", second: "y" } }] as unknown as OwnFormula[];
const choices = choicesOf(catalogue, OWN);
const kinds = (text: string, count = 3) =>
  new Set(
    found(choices, text)
      .slice(0, count)
      .flatMap((choice) => choice.steps.map((step) => step.kind)),
  );

describe("steps are found by the trade's words", () => {
  it.each([
    ["swirl", "twirl"],
    ["whirlpool", "twirl"],
    ["vortex", "twirl"],
    ["rotate", "turn"],
    ["rgb", "channel-split"],
    ["chromatic aberration", "channel-split"],
    ["misprint", "channel-split"],
    ["scanlines", "scan-lines"],
    ["screen", "scan-lines"],
    ["polar", "ring"],
    ["tiny planet", "ring"],
    ["brightness", "tone"],
    ["levels", "tone"],
    ["halftone", "stipple"],
    ["glow", "tube"],
    ["tape", "tape"],
    ["streak", "pixel-sort"],
    ["straighten", "level"],
    ["pixelate", "mosaic"],
    ["bulge", "pinch"],
  ])("%s", (text, kind) => expect(kinds(text, 8)).toContain(kind));

  it.each([
    ["kaleidascope", "kaleidoscope"],
    ["swirll", "twirl"],
    ["chanel split", "channel-split"],
    ["scan lins", "scan-lines"],
    ["halfton", "stipple"],
  ])("%s, misspelled", (text, kind) => expect(kinds(text)).toContain(kind));

  it("every kind and start by its own name first", () => {
    for (const choice of choices) expect(found(choices, choice.name)[0]?.name).toBe(choice.name);
  });

  it("own formulas and a blank one are among them", () => {
    expect(found(choices, "low tide")[0]?.note).toBe("Own formula");
    expect(found(choices, "equation").map((choice) => choice.name)).toContain("Blank formula");
  });

  it("nonsense finds nothing", () => expect(found(choices, "zzqqx")).toEqual([]));
});

it("says what is not there yet, by its name", () => {
  const missing = [{ label: "Lamp cloud", words: ["nimbus", "halo"], near: ["light"] }];
  const names = (text: string) => missed(missing, text).map((one) => one.label);
  expect(names("nimbus")).toEqual(["Lamp cloud"]);
  expect(names("lamp")).toEqual(["Lamp cloud"]);
  expect(names("twirl")).toEqual([]);
  // All that was missed is there.
  expect(missed(catalogue.missing, "hue")).toEqual([]);
});
