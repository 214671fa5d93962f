import { describe, expect, it } from "vitest";
import type { OwnFormula } from "../../api/client";
import { catalogue } from "../../testing/catalogue";
import { TRADE_WORDS } from "../../testing/tradeWords";
import { accompanied, choicesOf, found, missed } from "./find";

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

it("does not take a short word for what it stands in", () => {
  expect(missed(catalogue.missing, "ring")).toEqual([]);
  expect(missed(catalogue.missing, "type").map(({ first }) => first)).toContain(true);
});

it("says what is no step, by its name", () => {
  const missing = [{ label: "Lamp cloud", words: ["nimbus", "halo"], near: ["light"], told: "" }];
  const names = (text: string) => missed(missing, text).map(({ what }) => what.label);
  expect(names("nimbus")).toEqual(["Lamp cloud"]);
  expect(names("lamp")).toEqual(["Lamp cloud"]);
  expect(names("twirl")).toEqual([]);
  expect(missed(missing, "lamps").map(({ first }) => first)).toEqual([false]);
});

describe("the trade's words", () => {
  it("are more than a hundred and twenty", () => expect(TRADE_WORDS.length).toBeGreaterThan(120));
  it.each(TRADE_WORDS)("%s", (word, first) => {
    const none = missed(catalogue.missing, word).find((one) => one.first);
    const best = found(choices, word)[0];
    const answers = none ? [`*${none.what.label}`] : [best?.name, ...(best?.steps.map((step) => step.kind) ?? [])];
    expect(
      first.some((one) => answers.includes(one)),
      `${word}: ${answers.join(", ")}`,
    ).toBe(true);
  });
  it("lead to kinds that are there", () => {
    const kinds = new Set(catalogue.kinds.map((kind) => kind.key));
    for (const { near } of catalogue.missing) for (const key of near) expect(kinds).toContain(key);
  });
});

describe("a ring brings what helps it", () => {
  const byKey = new Map(catalogue.kinds.map((kind) => [kind.key, kind]));
  const seam = { kind: "close-seam", settings: {} };
  const centre = { kind: "centre", settings: { radius: null } };
  const companions = [
    { inside: "bottom", before: [seam], after: [centre] },
    { inside: "top", before: [seam], after: [] },
  ];
  const ring = choices.find((choice) => choice.steps.length === 1 && choice.steps[0]?.settings.inside === "bottom");
  const kindsOf = (steps: { kind: string }[] | undefined) => steps?.map(({ kind }) => kind);

  it("before and after, with its own place told", () => {
    const made = ring && accompanied(ring, companions, byKey, [], []);
    expect(kindsOf(made?.steps)).toEqual(["close-seam", "ring", "centre"]);
    expect(made?.main).toBe(1);
    expect(made?.steps[2]?.settings.radius).toBeNull();
  });

  it("but not what is there already, and nothing where nothing helps", () => {
    expect(kindsOf(ring && accompanied(ring, companions, byKey, ["close-seam"], ["centre"]).steps)).toEqual(["ring"]);
    expect(ring && accompanied(ring, [], byKey, [], [])).toBe(ring);
  });

  it("and no other kind brings anything", () => {
    const twirl = choices.find((choice) => choice.steps[0]?.kind === "twirl");
    expect(twirl && accompanied(twirl, companions, byKey, [], [])).toBe(twirl);
  });
});

it("a start that says something only after a ring is told to be one", () => {
  const rims = choices.filter((choice) => choice.steps[0]?.kind === "rim");
  expect(rims.filter(({ after }) => after === "winds").map(({ name }) => name)).toEqual(["Where the ring ends", "Wider sky"]);
  expect(rims.some(({ after }) => !after)).toBe(true);
});
