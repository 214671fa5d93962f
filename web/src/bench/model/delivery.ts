import type { ExportOptions } from "../../api/client";

/** What a delivery is first. */
export const USUAL: ExportOptions = {
  size: 2048,
  shape: "own",
  ratio: 1,
  format: "jpeg",
  quality: 90,
  space: "srgb",
  packing: "deflate",
  dpi: null,
  title: "",
  author: "",
  trail: true,
};
export const MOST = 16384;
export const CM = 2.54;
const RATIOS: Record<Exclude<ExportOptions["shape"], "typed">, number | null> = {
  own: null,
  square: 1,
  "4:5": 0.8,
  "9:16": 9 / 16,
  "16:9": 16 / 9,
};
const ratioOf = (options: ExportOptions) => (options.shape === "typed" ? options.ratio : RATIOS[options.shape]);

/** How many pixels the longer side of a picture of this ratio has in a delivery, what its shape cuts off counted in. */
export function longerDelivered(options: ExportOptions, ratio: number): number {
  const cut = ratioOf(options);
  const { size } = options;
  if (cut === null || ratio === cut) return size;
  // A flatter shape keeps the picture's width, a steeper one its height.
  const side = size / (cut > ratio ? Math.max(1, 1 / cut) : Math.max(1, cut));
  return Math.round(side * (cut > ratio ? Math.max(1, 1 / ratio) : Math.max(1, ratio)));
}

/** What a delivery keeps of a picture of this ratio, in shares of its sides about the middle; null where it keeps all. */
export function keptShare(options: ExportOptions, ratio: number): { across: number; down: number } | null {
  const cut = ratioOf(options);
  if (cut === null || Math.abs(cut / ratio - 1) < 0.002) return null;
  return cut > ratio ? { across: 1, down: ratio / cut } : { across: cut / ratio, down: 1 };
}

/** Where a delivery is meant to go: a shape with the size that is usual there. A poster has dots per inch, and so centimetres. */
export const TARGETS: { key: string; label: string; title?: string; icon: [number, number]; options: Partial<ExportOptions> }[] = [
  { key: "own", label: "Piece's shape", icon: [22, 18], options: { shape: "own", size: 2048, dpi: null } },
  { key: "square", label: "Square", title: "Square post", icon: [20, 20], options: { shape: "square", size: 1080, dpi: null } },
  { key: "4:5", label: "Portrait", title: "Portrait post", icon: [18, 22], options: { shape: "4:5", size: 1350, dpi: null } },
  { key: "9:16", label: "Story", icon: [14, 25], options: { shape: "9:16", size: 1920, dpi: null } },
  { key: "16:9", label: "Wide", icon: [27, 15], options: { shape: "16:9", size: 3840, dpi: null } },
  { key: "poster", label: "Poster", icon: [17, 24], options: { shape: "typed", ratio: 5 / 7, size: 5512, dpi: 200 } },
  { key: "typed", label: "Custom", icon: [24, 16], options: { shape: "typed", ratio: 1.5, size: 2048, dpi: null } },
];

export const targetOf = (options: ExportOptions) =>
  options.shape === "typed" ? (options.dpi === null ? "typed" : "poster") : options.shape;

/** Width and height of a delivery of a piece of this ratio, before they are whole pixels. */
function exactSides(options: ExportOptions, ratio: number): [number, number] {
  const cut = ratioOf(options) ?? ratio;
  return cut >= 1 ? [options.size, options.size / cut] : [options.size * cut, options.size];
}

/** Width and height of a delivery in pixels, of a piece of this ratio. */
export const deliveredSides = (options: ExportOptions, ratio: number): [number, number] => {
  const [width, height] = exactSides(options, ratio);
  return [Math.max(1, Math.round(width)), Math.max(1, Math.round(height))];
};

/** Another size of the same thing: where it has centimetres they stay, and the dots per inch follow. */
export const withSize = (options: ExportOptions, size: number): ExportOptions => ({
  ...options,
  size,
  dpi: options.dpi === null ? null : Number(((options.dpi ?? 0) * (size / options.size)).toFixed(3)),
});

/** How large it is on paper, where it has dots per inch. */
export function onPaper(options: ExportOptions, ratio: number): string {
  const { dpi } = options;
  if (!dpi) return "";
  const [width, height] = exactSides(options, ratio).map((pixels) => ((pixels / dpi) * CM).toFixed(1).replace(/\.0$/, ""));
  return `${width} × ${height} cm at ${Math.round(dpi)} dots per inch`;
}

/** Width and height of a typed shape in pixels. */
export function typedSides({ size, ratio }: ExportOptions): [number, number] {
  return ratio >= 1 ? [size, Math.max(1, Math.round(size / ratio))] : [Math.max(1, Math.round(size * ratio)), size];
}

/** The options with these sides, in pixels; no side longer than a file may have. */
export function withSides(options: ExportOptions, width: number, height: number): ExportOptions {
  const ratio = Math.min(20, Math.max(0.05, width / height));
  return { ...options, shape: "typed", ratio, size: Math.min(MOST, Math.max(16, Math.round(Math.max(width, height)))) };
}

/** Dots per inch changed: the centimetres stay, the pixels follow. */
export function withDpi(options: ExportOptions, dpi: number): ExportOptions {
  const [width, height] = typedSides(options);
  const scale = dpi / (options.dpi ?? dpi);
  return { ...withSides(options, width * scale, height * scale), dpi };
}

const FORMAT_NAMES: Record<ExportOptions["format"], string> = {
  jpeg: "JPEG",
  png: "PNG",
  png16: "PNG",
  webp: "WebP",
  avif: "AVIF",
  tiff: "TIFF",
  tiff16: "TIFF",
  openraster: "OpenRaster",
  map: "map",
};
export const nameOf = (format: ExportOptions["format"]) => FORMAT_NAMES[format];
export const isLossy = (format: ExportOptions["format"]) => format === "jpeg" || format === "webp" || format === "avif";
export const isDeep = (format: ExportOptions["format"]) => format === "png16" || format === "tiff16";

/** One line that says what a delivery is. */
export function inWords(options: ExportOptions): string {
  const target = TARGETS.find((one) => one.key === targetOf(options));
  const sides = options.shape === "typed" ? typedSides(options).join(" × ") : `${options.size} px`;
  return `${target?.title ?? target?.label}, ${sides}, ${nameOf(options.format)}${isDeep(options.format) ? " 16" : ""}`;
}
