import { expect, test } from "vitest";
import { LARGEST, Pace } from "./pace";

/** Drafts on a machine that needs so many milliseconds for a megapixel. */
function drag(pace: Pace, perMegapixel: number, drafts: number, seen = 768): number[] {
  pace.begin();
  return Array.from({ length: drafts }, () => {
    const size = pace.size(seen);
    pace.learn(size, 12 + (perMegapixel * size * size) / 1e6);
    return size;
  });
}

test("a quick machine keeps the largest drafts, never larger than the picture is seen", () => {
  expect(drag(new Pace(), 40, 12).at(-1)).toBe(LARGEST);
  expect(drag(new Pace(), 40, 12, 530).at(-1)).toBe(512);
  // The server takes whole numbers; on a small stage sizes go in steps too, so that a zoom does not ask for ever new ones.
  expect(new Pace().size(347.3)).toBe(320);
  expect(new Pace().size(200.9)).toBe(192);
  expect(new Pace().size(3.2)).toBe(64);
});

test("drafts shrink until they follow the hand, and stay there", () => {
  const sizes = drag(new Pace(), 200, 30);
  expect(sizes[0]).toBe(LARGEST);
  const last = sizes.at(-1) ?? 0;
  expect(12 + (200 * last * last) / 1e6).toBeLessThanOrEqual(60);
  expect(new Set(sizes.slice(-12)).size).toBe(1);
});

test("but never under half of what is seen", () => {
  expect(drag(new Pace(), 4000, 30, 1200).at(-1)).toBe(640);
  expect(drag(new Pace(), 4000, 30, 600).at(-1)).toBe(320);
});

test("they grow back when there is time again", () => {
  const pace = new Pace();
  const slow = drag(pace, 400, 20).at(-1) ?? 0;
  expect(slow).toBe(384);
  expect(drag(pace, 20, 60).at(-1)).toBe(LARGEST);
});

test("they do not shrink where that brings nothing", () => {
  const pace = new Pace();
  pace.begin();
  const sizes = Array.from({ length: 30 }, () => {
    const size = pace.size(768);
    pace.learn(size, 70 + size / 100);
    return size;
  });
  expect(sizes.at(-1)).toBe(LARGEST);
  expect(new Set(sizes.slice(-15)).size).toBe(1);
});

test("one slow picture changes nothing, nor does the first of a drag", () => {
  const pace = new Pace();
  pace.begin();
  pace.learn(LARGEST, 900);
  for (const took of [40, 300, 40, 40, 45]) pace.learn(LARGEST, took);
  expect(pace.size(768)).toBe(LARGEST);
});
