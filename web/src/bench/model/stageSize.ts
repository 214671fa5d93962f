/** Looks come in a few sizes, so that a small change of the window asks for nothing new. */
const SIZES = [512, 768, 1024, 1280, 1536, 2048, 2560, 3072, 4096, 6144, 8192, 12288, 16384];
/** Up to this size a picture is made whole, however much of it is seen; and no whole one is larger than the other. */
export const SMALL = 1536;
export const LARGEST_WHOLE = 4096;
/** What lies around the part that is seen is shown as large as this. */
export const AROUND = 768;

/** The size to ask for where the longer side is seen at `longer` pixels: never more than the delivery has, which is the truth. */
export const sizeFor = (longer: number, delivered: number): number => {
  const most = Math.min(delivered, SIZES.at(-1) ?? delivered);
  return Math.min(SIZES.find((size) => size >= longer) ?? most, most);
};
