import { describe, expect, it } from "vitest";
import { inWords, keptShare, longerDelivered, MOST, targetOf, typedSides, USUAL, withDpi, withSides } from "./delivery";

describe("how large a picture is in a delivery", () => {
  it("is its size where nothing is cut off", () => {
    expect(longerDelivered(USUAL, 2)).toBe(2048);
    expect(longerDelivered({ ...USUAL, shape: "square" }, 1)).toBe(2048);
  });
  it("is more where a shape cuts off some of it", () => {
    // Of a picture of 4096 × 2048 the square in the middle has 2048.
    expect(longerDelivered({ ...USUAL, shape: "square" }, 2)).toBe(4096);
    expect(longerDelivered({ ...USUAL, shape: "square" }, 0.5)).toBe(4096);
    // Of a square of 3641 a strip of 9:16 is 2048 wide and 3641 high.
    expect(longerDelivered({ ...USUAL, shape: "9:16", size: 3641 }, 1)).toBe(3641);
    // Of 2048 × 1024 the part of 4:5 is 819 × 1024.
    expect(longerDelivered({ ...USUAL, shape: "4:5", size: 1024 }, 2)).toBe(2048);
    expect(longerDelivered({ ...USUAL, shape: "16:9", size: 1600 }, 1)).toBe(1600);
    expect(longerDelivered({ ...USUAL, shape: "typed", ratio: 1, size: 1000 }, 2)).toBe(2000);
  });
});

it("keeps the middle of what a shape cuts", () => {
  expect(keptShare(USUAL, 2)).toBe(null);
  expect(keptShare({ ...USUAL, shape: "square" }, 1.001)).toBe(null);
  expect(keptShare({ ...USUAL, shape: "square" }, 2)).toEqual({ across: 0.5, down: 1 });
  expect(keptShare({ ...USUAL, shape: "16:9" }, 1)).toEqual({ across: 1, down: 9 / 16 });
});

describe("a poster", () => {
  const poster = withDpi(withSides({ ...USUAL, dpi: 200 }, (50 / 2.54) * 200, (70 / 2.54) * 200), 200);
  it("has as many pixels as its centimetres ask for", () => {
    expect(typedSides(poster)).toEqual([3937, 5512]);
    expect(targetOf(poster)).toBe("poster");
  });
  it("keeps its centimetres when the dots per inch change", () => {
    const fine = withDpi(poster, 300);
    expect(typedSides(fine)).toEqual([5906, 8268]);
    expect(fine.dpi).toBe(300);
  });
  it("is no larger than a file may be", () => {
    expect(withDpi(poster, 1000).size).toBe(MOST);
  });
});

it("says what a delivery is", () => {
  expect(inWords(USUAL)).toBe("Piece's shape, 2048 px, JPEG");
  expect(inWords({ ...withSides(USUAL, 3000, 2000), format: "tiff16" })).toBe("Custom, 3000 × 2000, TIFF 16");
});
