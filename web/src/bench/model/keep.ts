import type { Reading } from "../../api/client";
import { halfOf, round } from "./geometry";
import type { KeepArea } from "./piece";
import { NOWHERE } from "./where";

const WEIGHTS: Record<string, number> = { face: 1, dial: 0.9, lettering: 0.85, salient: 0.6 };
const NAMES: Record<string, string> = { face: "Face", dial: "Dial", lettering: "Lettering", salient: "Most striking part" };
/** A suggested area is a little larger than what was found. */
const MARGIN = 1.15;

/** The keep areas a reading suggests: ellipses round faces, dials and what stands out, rectangles round lettering. */
export function suggested(reading: Reading): KeepArea[] {
  const half = halfOf(reading.ratio);
  type Feature = Reading["features"][number];
  const within = (one: Feature, box: Feature) => {
    const [x, y] = [one.left + one.width / 2, one.top + one.height / 2];
    return x > box.left && x < box.left + box.width && y > box.top && y < box.top + box.height;
  };
  const named = reading.features.filter((feature) => feature.kind !== "salient");
  // What stands out in a face, a dial or lettering is kept with it.
  const told = reading.features.filter((one) => one.kind !== "salient" || !named.some((box) => within(one, box)));
  return told.map(({ kind, left, top, width, height }) => ({
    name: NAMES[kind] ?? "Area",
    weight: WEIGHTS[kind] ?? 0.6,
    where: {
      ...NOWHERE,
      feather: 0.06,
      shapes: [
        {
          kind: kind === "lettering" ? "rectangle" : "ellipse",
          x: round((left + width / 2) * 2 * half.x - half.x),
          y: round((top + height / 2) * 2 * half.y - half.y),
          rx: round(width * half.x * MARGIN),
          ry: round(height * half.y * MARGIN),
          turn: 0,
        },
      ],
    },
  }));
}

/** The areas that are not there yet: one whose middle lies in an area of the same name is. */
export function fresh(found: KeepArea[], there: KeepArea[]): KeepArea[] {
  const middle = (area: KeepArea) => ({ x: Number(area.where.shapes[0]?.x ?? 99), y: Number(area.where.shapes[0]?.y ?? 99) });
  return found.filter((one) => {
    const at = middle(one);
    return !there.some((other) => other.name === one.name && Math.hypot(middle(other).x - at.x, middle(other).y - at.y) < 0.15);
  });
}
