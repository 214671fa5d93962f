import { expect, test } from "vitest";
import { groundUnder } from "./moving";
import type { Layer, PieceDocument } from "./piece";

const layer = (id: string, more: Partial<Layer> = {}): Layer => ({ id, source: { kind: "photo", photo: "a.png" }, steps: [], ...more });
const piece = (...layers: Layer[]): PieceDocument => ({ caracol: 3, layers });

test("a plain layer on top moves over the others, hidden ones not counted", () => {
  const top = layer("top");
  const document = piece(layer("land"), top, layer("off", { visible: false }));
  const ground = groundUnder(document, top);
  expect(ground?.layers.map((entry) => entry.visible ?? true)).toEqual([true, false, false]);
  expect(document.layers[1]).toBe(top);
});

test.each([
  ["something lies over it", {}, [layer("over")]],
  ["it is blended", { blend: "screen" }, []],
  ["it is partly seen through", { opacity: 0.4 }, []],
  ["it is not everywhere", { where: { shapes: [], feather: 0, invert: true } }, []],
  ["it shows what is below", { source: { kind: "below" } }, []],
  ["it is tiled over the frame", { source: { kind: "photo", photo: "a.png", fit: "tile" } }, []],
] as [string, Partial<Layer>, Layer[]][])("it does not where %s", (_, more, over) => {
  const moved = layer("top", more);
  expect(groundUnder(piece(layer("land"), moved, ...over), moved)).toBeNull();
});

test("the lowest shapes the frame, and does not", () => {
  const land = layer("land");
  expect(groundUnder(piece(land), land)).toBeNull();
});
