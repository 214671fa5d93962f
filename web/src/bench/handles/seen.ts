import type { Point } from "../model/geometry";
import type { Seen } from "./StrokePreview";

/** The picture of the stage an SVG lies on. */
export function seenUnder(node: Element | null): { image: HTMLImageElement; seen: Seen } | null {
  const image = [...(node?.closest(".stage")?.querySelectorAll<HTMLImageElement>(":scope > .picture-side > img:not(.under)") ?? [])].at(-1);
  if (!image) return null;
  return {
    image,
    seen: { url: image.src, left: image.offsetLeft, top: image.offsetTop, width: image.offsetWidth, height: image.offsetHeight },
  };
}

/** The colour of the seen picture at a point of the stage. */
export function colourAt(image: HTMLImageElement, seen: Seen, at: Point): string | null {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 1;
  const pen = canvas.getContext("2d");
  const [x, y] = [((at.x - seen.left) / seen.width) * image.naturalWidth, ((at.y - seen.top) / seen.height) * image.naturalHeight];
  if (!pen || x < 0 || y < 0 || x >= image.naturalWidth || y >= image.naturalHeight) return null;
  pen.drawImage(image, Math.floor(x), Math.floor(y), 1, 1, 0, 0, 1, 1);
  const [r = 0, g = 0, b = 0] = pen.getImageData(0, 0, 1, 1).data;
  return `#${[r, g, b].map((part) => part.toString(16).padStart(2, "0")).join("")}`;
}
