import type { ThemeConfig } from "antd";

/** Caracol's colours: warm paper, ink, one coral accent, moss for “on”. */
export const colours = {
  paper: "#f6f0e8",
  sheet: "#fcf9f4",
  strip: "#efe6da",
  line: "#ddd0bf",
  ink: "#22292c",
  quiet: "#5f5a52",
  coral: "#c24a30",
  moss: "#4c7238",
} as const;

/** Whether the artist's system asks for stillness. */
const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;

export const theme: ThemeConfig = {
  token: {
    motion: !still,
    colorPrimary: colours.coral,
    colorLink: colours.coral,
    colorSuccess: colours.moss,
    colorText: colours.ink,
    colorTextSecondary: colours.quiet,
    colorTextDescription: colours.quiet,
    colorTextPlaceholder: "#7a7267",
    colorBgBase: colours.sheet,
    colorBgLayout: colours.paper,
    colorBgContainer: "#fffdf9",
    colorBgElevated: "#fffdf9",
    colorBorder: colours.line,
    colorBorderSecondary: colours.line,
    borderRadius: 8,
    fontFamily: "'Work Sans Variable', sans-serif",
    fontSize: 14,
    controlHeight: 34,
  },
  components: {
    Button: { primaryShadow: "none", defaultShadow: "none", fontWeight: 500 },
    Segmented: { trackBg: "#eae0d2", itemSelectedBg: "#fffdf9", trackPadding: 3 },
    Slider: {
      railBg: "#ddd0bf",
      railHoverBg: "#d3c4b0",
      trackBg: colours.ink,
      trackHoverBg: colours.ink,
      handleColor: colours.ink,
      handleActiveColor: colours.coral,
      dotActiveBorderColor: colours.ink,
    },
    InputNumber: { paddingInline: 8 },
    Switch: { colorPrimary: colours.moss, colorPrimaryHover: colours.moss },
  },
};
