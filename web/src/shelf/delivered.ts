/** The mark by which a delivered file is known: the namespace of the trail inside (docs/delivery.md). */
const MARK = new TextEncoder().encode("urn:caracol:piece#");
const PICTURES = /\.(png|jpe?g|webp|avif|tiff?)$/i;

function holds(bytes: Uint8Array): boolean {
  const [first] = MARK;
  for (let at = bytes.indexOf(first as number); at >= 0; at = bytes.indexOf(first as number, at + 1)) {
    if (MARK.every((one, k) => bytes[at + k] === one)) return true;
  }
  return false;
}

/** Whether a piece travels in a file. */
export async function carriesTrail(file: File): Promise<boolean> {
  if (!PICTURES.test(file.name)) return false;
  try {
    return holds(new Uint8Array(await file.arrayBuffer()));
  } catch {
    return false; // it is gone or may not be read: sending it will say so
  }
}
