/** Caracol's colours: warm paper, ink, one coral accent, moss for “on”. Style sheets read them as `var(--name)`; no other file names a colour. */
export const colours = {
  paper: "#f6f0e8",
  sheet: "#fcf9f4",
  card: "#fffdf9",
  strip: "#efe6da",
  stripLight: "#f5ede1",
  line: "#ddd0bf",
  lineDark: "#d3c4b0",
  tan: "#e8dccb",
  tanDark: "#b9ad9c",
  track: "#eae0d2",
  ink: "#22292c",
  night: "#14181a",
  quiet: "#5f5a52",
  faint: "#7a7267",
  white: "#fff",
  coral: "#c24a30",
  coralDark: "#a33a22",
  coralBright: "#e8613f",
  coralFill: "rgb(232 97 63 / 22%)",
  moss: "#4c7238",
  leaf: "#a9cf8f",
  good: "#7fb069",
  fair: "#e3b23c",
  poor: "#e0563b",
  fairInk: "#7a5a12",
  poorInk: "#8c3a28",
  /** What is drawn on the picture: a light line within a dark one. */
  trace: "#fffdf9",
  traceEdge: "rgb(20 24 26 / 55%)",
  traceFaint: "rgb(255 253 249 / 42%)",
  traceFill: "rgb(255 253 249 / 18%)",
  /** Paper over a picture. */
  glass: "rgb(252 249 244 / 94%)",
  surroundLight: "#d6d4d0",
  surroundMiddle: "#868480",
  surroundDark: "#2b2a29",
  chequerDark: "#cfcac2",
  chequerLight: "#e6e2db",
  plateRed: "#e2523f",
  plateGreen: "#5f9e55",
  plateBlue: "#4a78c8",
  plateColour: "#c9549a",
  shadowLow: "0 2px 16px rgb(0 0 0 / 22%)",
  shadowHigh: "0 10px 40px rgb(0 0 0 / 24%)",
} as const;

/** Give the colours to the page's style sheets: `traceEdge` is `var(--trace-edge)`. */
export function publishColours(root: HTMLElement): void {
  for (const [name, value] of Object.entries(colours)) {
    root.style.setProperty(`--${name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`)}`, value);
  }
}
