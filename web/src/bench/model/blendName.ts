/** What a blend mode is called on the screen: as W3C Compositing names it, in British spelling. */
export const blendName = (blend: string): string => blend.replaceAll("-", " ").replaceAll("color", "colour");
