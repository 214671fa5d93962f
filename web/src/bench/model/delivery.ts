import type { ExportOptions } from "../../api/client";

/** What a delivery is first. */
export const USUAL: ExportOptions = { size: 2048, shape: "own", format: "jpeg", quality: 90 };
const RATIOS: Record<ExportOptions["shape"], number | null> = { own: null, square: 1, "4:5": 0.8, "9:16": 9 / 16, "16:9": 16 / 9 };

/** How many pixels the longer side of a picture of this ratio has in a delivery, what its shape cuts off counted in. */
export function longerDelivered({ size, shape }: ExportOptions, ratio: number): number {
  const cut = RATIOS[shape];
  if (cut === null || ratio === cut) return size;
  // A flatter shape keeps the picture's width, a steeper one its height.
  const side = size / (cut > ratio ? Math.max(1, 1 / cut) : Math.max(1, cut));
  return Math.round(side * (cut > ratio ? Math.max(1, 1 / ratio) : Math.max(1, ratio)));
}
