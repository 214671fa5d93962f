// What jsdom has no idea of: how a picture is decoded, and where its bytes are found.
if (typeof window !== "undefined") {
  window.matchMedia ??= ((query: string) => ({ matches: false, media: query, addEventListener() {}, removeEventListener() {} })) as never;
  let urls = 0;
  URL.createObjectURL ??= () => {
    urls += 1;
    return `blob:${urls}`;
  };
  URL.revokeObjectURL ??= () => {};
  HTMLImageElement.prototype.decode ??= async () => {};
  Element.prototype.setPointerCapture ??= () => {};
  Element.prototype.releasePointerCapture ??= () => {};
}
