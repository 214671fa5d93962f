import { expect, it } from "vitest";
import type { PieceDocument } from "./piece";
import { keptReach } from "./reading";
import { edgeLine, overTheSeam, rayLine, reachedOver, rolledAfter } from "./seam";

const PLACED = { left: 0, top: 0, width: 400, height: 200 };
const PIECE: PieceDocument = {
  caracol: 3,
  layers: [
    {
      id: "land",
      name: "Land",
      source: { kind: "photo", photo: "a.jpg" },
      steps: [
        { id: "s1", on: true, kind: "close-seam", settings: {} },
        { id: "s2", on: true, kind: "ring", settings: { x: 0.2, y: 0 } },
      ],
    },
  ],
};

it("rolls a layer right after a step, and leaves the document alone", () => {
  const rolled = rolledAfter(PIECE, "land", "s1", "wrap-shift");
  expect((rolled.layers[0] as { steps: { kind: string }[] }).steps.map((step) => step.kind)).toEqual(["close-seam", "wrap-shift", "ring"]);
  expect((PIECE.layers[0] as { steps: unknown[] }).steps).toHaveLength(2);
});

it.each([
  ["in the middle", edgeLine(PLACED, 0.1, true), { x: 0.2, y: 0.5 }],
  ["at the edge", edgeLine(PLACED, 0.1, false), { x: -1.8, y: 0.5 }],
])("finds places along a join %s and back", (_, line, point) => {
  expect(line.point(0.75, 0.5).x).toBeCloseTo(point.x);
  expect(line.point(0.75, 0.5).y).toBeCloseTo(point.y);
  expect(line.place(point).v).toBeCloseTo(0.75);
  expect(line.place(point).at).toBeCloseTo(0.5);
});

it("finds places along a ray and back, from the farthest corner inwards", () => {
  const line = rayLine({ ...PLACED, width: 200 }, { x: 0, y: 0, ray: 0.5 }, 0.1);
  const { x, y } = line.point(0.5, 0);
  expect(x).toBeCloseTo(0);
  expect(y).toBeCloseTo(Math.SQRT1_2);
  const back = line.place(line.point(0.3, -0.6));
  expect(back.v).toBeCloseTo(0.3);
  expect(back.at).toBeCloseTo(-0.6);
});

it("grows a ring over its corners, and makes a live copy about its middle", () => {
  expect(reachedOver({ reach: 1 })).toBe(1.415);
  expect(reachedOver({ reach: 2 })).toBeNull();
  const copy = overTheSeam(PIECE, { x: 0.2, y: 0 }, "twirl");
  expect(copy?.source).toEqual({ kind: "below" });
  expect(copy?.steps[0]?.settings).toMatchObject({ fall: "even", x: 0.2, y: 0 });
});

it("keeps the horizon of a ring where it was when the photo is cut", () => {
  const [ratio, horizon, cut] = [3, 0.6, 0.7];
  const reach = keptReach({ spread: "shape", reach: 1.5 }, { ratio, horizon }, cut) ?? 0;
  const radius = (far: number, rho: number) => far * Math.exp((-2 * Math.PI * horizon) / rho);
  expect(radius(reach, ratio * cut)).toBeCloseTo(radius(1.5, ratio), 3);
  expect(keptReach({ spread: "even" }, { ratio, horizon }, cut)).toBeNull();
});
