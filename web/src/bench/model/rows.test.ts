import { expect, test } from "vitest";
import { catalogue } from "../../testing/catalogue";
import { rowsOf } from "./rows";
import { applies, defaults, whyIdle } from "./settings";

const kindOf = (key: string) => {
  const kind = catalogue.kinds.find((one) => one.key === key);
  if (!kind) throw new Error(key);
  return kind;
};
const rows = (key: string) => {
  const kind = kindOf(key);
  return rowsOf(kind.settings.filter((setting) => applies(kind, {}, setting)));
};

test("what belongs together stands in one row, called by what both are called", () => {
  const pairs = rows("twirl").flatMap((row) => (row.form === "pair" ? [[row.label, ...row.names]] : []));
  expect(pairs).toEqual([["Centre", "x", "y"]]);
  expect(rows("wrap-shift").map((row) => (row.form === "pair" ? row.names : row.form))).toEqual([["Across", "Down"]]);
});

test("eighteen numbers of three plates are a table of six lines", () => {
  const table = rows("channel-split").find((row) => row.form === "table");
  expect(table?.columns).toEqual(["Red", "Green", "Blue"]);
  expect(table?.lines.map((line) => line.label)).toEqual(["Across", "Down", "Scale", "Turn", "Shear", "Blur"]);
  expect(table?.lines[1]?.settings.map((setting) => setting.name)).toEqual(["red_y", "green_y", "blue_y"]);
});

test("every setting of every kind stands in one row", () => {
  for (const kind of catalogue.kinds) expect(rowsOf(kind.settings).flatMap((row) => row.settings as unknown[])).toEqual(kind.settings);
});

test("a setting without effect says why", () => {
  const ring = kindOf("ring");
  const fold = ring.settings.find((setting) => setting.name === "fold");
  if (!fold) throw new Error("fold");
  expect(whyIdle(ring, defaults(ring), fold)).toBe("There is no hole to fill: Hole is 0.");
  expect(whyIdle(ring, defaults(ring, { hole: 0.2 }), fold)).toBeNull();
  expect(whyIdle(ring, defaults(ring, { spread: "shape" }), fold)).toBeNull();
});
