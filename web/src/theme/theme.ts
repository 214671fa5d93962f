import type { ThemeConfig } from "antd";
import { colours } from "./colours";

/** Whether the artist's system asks for stillness. */
const still = window.matchMedia("(prefers-reduced-motion: reduce)").matches;

/** Coral means chosen: what is under the pointer, or written in, is drawn in ink. */
const inInk = { activeBorderColor: colours.ink, hoverBorderColor: colours.tanDark, activeShadow: "none" };

export const theme: ThemeConfig = {
  token: {
    motion: !still,
    colorPrimary: colours.coral,
    // Darker under the pointer: what is lighter can no longer be read on paper.
    colorPrimaryHover: colours.coralDark,
    colorPrimaryActive: colours.coralDark,
    colorLink: colours.coral,
    colorSuccess: colours.moss,
    colorInfo: colours.quiet,
    colorInfoBg: colours.card,
    colorInfoBorder: colours.lineDark,
    colorText: colours.ink,
    colorTextSecondary: colours.quiet,
    colorTextDescription: colours.quiet,
    colorTextPlaceholder: colours.faint,
    colorBgBase: colours.sheet,
    colorBgLayout: colours.paper,
    colorBgContainer: colours.card,
    colorBgElevated: colours.card,
    colorBorder: colours.line,
    colorBorderSecondary: colours.line,
    borderRadius: 8,
    fontFamily: "'Work Sans Variable', sans-serif",
    fontSize: 14,
    controlHeight: 34,
  },
  components: {
    Progress: { defaultColor: colours.coral, remainingColor: colours.line },
    Button: {
      primaryShadow: "none",
      defaultShadow: "none",
      fontWeight: 500,
      defaultHoverColor: colours.ink,
      defaultHoverBorderColor: colours.tanDark,
      defaultActiveColor: colours.ink,
      defaultActiveBorderColor: colours.ink,
    },
    Segmented: { trackBg: colours.track, itemSelectedBg: colours.card, trackPadding: 3 },
    Slider: {
      railBg: colours.line,
      railHoverBg: colours.lineDark,
      trackBg: colours.ink,
      trackHoverBg: colours.ink,
      handleColor: colours.ink,
      handleActiveColor: colours.ink,
      dotActiveBorderColor: colours.ink,
    },
    Input: inInk,
    InputNumber: { paddingInline: 8, ...inInk },
    Select: { activeBorderColor: colours.ink, hoverBorderColor: colours.tanDark, activeOutlineColor: "transparent" },
    Switch: { colorPrimary: colours.moss, colorPrimaryHover: colours.moss },
  },
};
