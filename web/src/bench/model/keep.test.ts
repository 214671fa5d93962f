import { describe, expect, it } from "vitest";
import type { Reading } from "../../api/client";
import { fresh, suggested } from "./keep";

const feature = (kind: "face" | "dial" | "lettering" | "salient", left: number, top: number, width: number, height: number) => ({
  kind,
  left,
  top,
  width,
  height,
  weight: 0.9,
});
const reading = {
  ratio: 2,
  features: [
    feature("dial", 0.4, 0.25, 0.25, 0.5),
    feature("lettering", 0.1, 0.8, 0.3, 0.1),
    feature("salient", 0.45, 0.4, 0.1, 0.1),
    feature("salient", 0.8, 0.1, 0.1, 0.2),
  ],
} as unknown as Reading;

describe("suggested keep areas", () => {
  it("lie round what was found, in the photo's units", () => {
    const [dial, words, other] = suggested(reading);
    expect(dial?.where.shapes[0]).toMatchObject({ kind: "ellipse", x: 0.1, y: 0, rx: 0.575, ry: 0.575 });
    expect(words?.where.shapes[0]).toMatchObject({ kind: "rectangle", x: -1, y: 0.7 });
    expect(other?.name).toBe("Most striking part");
    expect(Number(dial?.weight)).toBeGreaterThan(Number(other?.weight));
  });
  it("leave out what stands out within a dial", () => {
    expect(suggested(reading)).toHaveLength(3);
  });
  it("are not suggested twice", () => {
    const all = suggested(reading);
    expect(fresh(all, all.slice(0, 2)).map((area) => area.name)).toEqual(["Most striking part"]);
    expect(fresh(all, all)).toEqual([]);
  });
});
