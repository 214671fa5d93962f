import { describe, expect, it } from "vitest";
import { isChanged, withTold } from "./settings";
import {
  byLight,
  colourOf,
  cssOf,
  evenly,
  gammaFor,
  middleOf,
  movedPoint,
  partsOf,
  STRAIGHT,
  turnedOver,
  widestGap,
  withoutPoint,
  withPoint,
} from "./tones";

const CURVE = [
  [0, 0],
  [0.5, 0.6],
  [1, 1],
];

describe("curves of tones", () => {
  it("hold a point between its neighbours and within 0…1", () => {
    expect(movedPoint(CURVE, 1, 2, -1)).toEqual([
      [0, 0],
      [0.996, 0],
      [1, 1],
    ]);
    expect(movedPoint(CURVE, 0, -1, 0.2)[0]).toEqual([0, 0.2]);
  });
  it("take points in order, choose one that is near, and are full at sixteen", () => {
    expect(withPoint(CURVE, 0.25, 0.4)).toEqual({
      curve: [
        [0, 0],
        [0.25, 0.4],
        [0.5, 0.6],
        [1, 1],
      ],
      n: 1,
    });
    expect(withPoint(CURVE, 0.505, 0.1)).toEqual({ curve: CURVE, n: 1 });
    const full = Array.from({ length: 16 }, (_, n) => [n / 15, n / 15]);
    expect(withPoint(full, 0.5, 0.5)).toBeNull();
  });
  it("keep two points, and know their widest gap", () => {
    expect(withoutPoint(CURVE, 1)).toEqual(STRAIGHT);
    expect(withoutPoint(STRAIGHT, 1)).toEqual(STRAIGHT);
    expect(
      widestGap([
        [0, 0],
        [0.2, 0.1],
        [1, 1],
      ]),
    ).toBeCloseTo(0.6);
  });
});

describe("the middle", () => {
  it("stands where its gamma brings the value to one half, and back", () => {
    for (const gamma of [0.5, 1, 2.2]) expect(gammaFor(0.1, 0.9, middleOf(0.1, 0.9, gamma))).toBeCloseTo(gamma, 2);
    expect(((middleOf(0.1, 0.9, 2) - 0.1) / 0.8) ** (1 / 2)).toBeCloseTo(0.5);
  });
});

describe("gradients", () => {
  const stops = [
    { at: 1, colour: "#ff0000" },
    { at: 0, colour: "#000000" },
  ];
  it("are read between their stops, whatever their order", () => {
    expect([colourOf(stops, 0), colourOf(stops, 0.5), colourOf(stops, 1)]).toEqual(["#000000", "#800000", "#ff0000"]);
    expect(cssOf(stops)).toBe("linear-gradient(90deg, #000000 0%, #ff0000 100%)");
  });
  it("are turned over, spread evenly, and set by their own light", () => {
    expect(turnedOver(stops)).toEqual([
      { at: 0, colour: "#ff0000" },
      { at: 1, colour: "#000000" },
    ]);
    expect(evenly([...stops, { at: 0.1, colour: "#00ff00" }]).map((stop) => stop.at)).toEqual([0, 0.5, 1]);
    expect(byLight(stops)).toEqual([
      { at: 0, colour: "#000000" },
      { at: 0.213, colour: "#ff0000" },
    ]);
  });
  it("weigh light as the core does", () => {
    expect(partsOf("#ff0000")).toEqual({ all: 0.2126, red: 1, green: 0, blue: 0, light: 0.2126 });
  });
});

describe("numbers that are left to a step", () => {
  const number = { name: "feet", auto: [{ value: 1 }], default: null } as never;
  const kind = { settings: [number, { name: "soft", auto: null, default: 0.1 } as never] };
  it("are shown as it found them, and as the hand set them", () => {
    const found = withTold(kind, {}, { feet: 0.4, soft: 0.9 });
    expect(Object.entries(found)).toEqual([["feet", 0.4]]);
    // Nobody set it: it is not told as changed, and resetting it would do nothing.
    expect(isChanged(number, found)).toBe(false);
    expect(isChanged(number, { feet: 0.4 })).toBe(true);
    expect(withTold(kind, { feet: 0.7 }, { feet: 0.4 })).toEqual({ feet: 0.7 });
    expect(withTold(kind, {}, undefined)).toEqual({});
  });
});
