import { expect, it } from "vitest";
import { carriesTrail } from "./delivered";

it("knows a delivered file by its mark", async () => {
  expect(await carriesTrail(new File(["uu urn:urn:caracol:piece# x"], "a.PNG"))).toBe(true);
  expect(await carriesTrail(new File(["urn:caracol"], "a.png"))).toBe(false);
  expect(await carriesTrail(new File([], "a.png"))).toBe(false);
});

it("looks into pictures alone", async () => {
  expect(await carriesTrail(new File(["urn:caracol:piece#"], "a.json"))).toBe(false);
});
