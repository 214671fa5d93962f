import { describe, expect, it } from "vitest";
import type { Kind } from "../../api/client";
import { place, polar, toFrame, toStage, turnsOf } from "./geometry";
import { applies, effective } from "./settings";
import { viewFor } from "./view";

const setting = (name: string, more: object) => ({
  name,
  label: name,
  widget: "number",
  unit: "units",
  type: "number",
  choices: null,
  minimum: 0,
  maximum: 1,
  step: 0.1,
  default: null,
  auto: null,
  when: null,
  nullable: true,
  help: "",
  ...more,
});
const kind = (key: string, geometric: boolean, handles: string[]): Kind =>
  ({
    key,
    label: key,
    family: "bend",
    purpose: "",
    words: [],
    geometric,
    respects_keep: false,
    cuts: false,
    by_hand: false,
    shows: false,
    tells: false,
    role: null,
    plain: true,
    follows: false,
    grounded: false,
    guide_layer: null,
    reshapes: "never",
    handles,
    starts: [],
    settings: [],
    bonds: [],
  }) as Kind;

describe("geometry", () => {
  it("goes from the stage to the frame and back", () => {
    const placed = place({ width: 200, height: 100 }, { width: 1028, height: 728 }, 1, { x: 10, y: 0 });
    expect(placed).toEqual({ left: 24, top: 114, width: 1000, height: 500 });
    expect(toFrame(placed, { x: 1024, y: 364 })).toEqual({ x: 2, y: 0 });
    const point = { x: -0.3, y: 0.7 };
    const back = toFrame(placed, toStage(placed, point));
    expect(back.x).toBeCloseTo(point.x);
    expect(back.y).toBeCloseTo(point.y);
  });

  it("measures turns clockwise from the top", () => {
    expect([turnsOf({ x: 0, y: -1 }), turnsOf({ x: 1, y: 0 }), turnsOf({ x: 0, y: 1 }), turnsOf({ x: -1, y: 0 })]).toEqual([
      0, 0.25, 0.5, 0.75,
    ]);
    expect(turnsOf(polar({ x: 0, y: 0 }, 0.4, 3))).toBeCloseTo(0.4);
  });
});

describe("settings left to themselves", () => {
  const ring = {
    ...kind("ring", true, ["ring"]),
    settings: [
      setting("spread", { type: "choice", default: "even", unit: "choice" }),
      setting("hole", { auto: [{ when: { spread: "depth" }, value: 0.1 }, { value: 0 }], when: { spread: ["even", "depth"] } }),
    ],
  } as Kind;
  it("follow the others until they are set", () => {
    expect(effective(ring, {}, "hole")).toBe(0);
    expect(effective(ring, { spread: "depth", hole: null }, "hole")).toBe(0.1);
    expect(effective(ring, { spread: "depth", hole: 0.4 }, "hole")).toBe(0.4);
  });
  it("are shown only where they have an effect", () => {
    const hole = ring.settings[1] as Kind["settings"][number];
    expect(applies(ring, {}, hole)).toBe(true);
    expect(applies(ring, { spread: "shape" }, hole)).toBe(false);
  });
});

describe("the stage that is shown", () => {
  const kinds = new Map(
    [kind("crop", true, ["crop-box"]), kind("ring", true, ["ring"]), kind("rim", false, ["rim"]), kind("tone", false, [])].map((k) => [
      k.key,
      k,
    ]),
  );
  const steps = ["crop", "ring", "rim", "tone"].map((key) => ({ id: key, kind: key, settings: {} }));
  it("is the finished picture where the handles still fit it", () => {
    expect(viewFor(steps, kinds, "ring")).toEqual({ upto: null, handles: true });
    expect(viewFor(steps, kinds, "tone")).toEqual({ upto: null, handles: true });
    expect(viewFor(steps, kinds, null)).toEqual({ upto: null, handles: false });
  });
  it("is the picture before a crop", () => {
    expect(viewFor(steps, kinds, "crop")).toEqual({ upto: 0, handles: true });
  });
  it("is the picture just after the step where a later one moves pixels", () => {
    const twice = [...steps, { id: "again", kind: "ring", settings: {} }];
    expect(viewFor(twice, kinds, "ring")).toEqual({ upto: 2, handles: true });
    expect(viewFor([...steps, { id: "again", kind: "ring", on: false, settings: {} }], kinds, "ring")).toEqual({
      upto: null,
      handles: true,
    });
  });
});
