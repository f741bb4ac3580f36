import { createTheme } from "@mui/material/styles";

/**
 * The look lives here: enamelware on a worktop. A cool ground, white enamel, navy ink, cobalt for
 * whatever can be acted on; the liquids are the only strong colours and come from the core.
 */
export const tokens = {
  light: {
    ground: "#EDF0EF",
    enamel: "#FBFCFC",
    ink: "#131A33",
    muted: "#59627A",
    hairline: "#D3DAE0",
    cobalt: "#2140A8",
    onCobalt: "#FFFFFF",
    glint: "#FFFFFF",
    lettering: "#131A33",
    wash: "#E3E9FA",
    bandName: "#5F6B94",
    worktop: "#D9DEE6",
    notice: "#FFF6DC",
    onNotice: "#3D3208",
    stop: "#B3261E",
    stopWash: "#FBE9E7",
    sweet: "#A9741B",
    acid: "#65850F",
    water: "#3F83AB",
    track: "#DCE2E6",
    // What stands in pictures of no drink in particular.
    lemon: "#EFE6B2",
    plain: "#DCE7ED",
    rose: "#D98A8A",
  },
  dark: {
    ground: "#0F1424",
    enamel: "#1A2138",
    ink: "#EEF1F8",
    muted: "#A3ACC4",
    hairline: "#2C3552",
    cobalt: "#9DB2FF",
    onCobalt: "#0F1424",
    glint: "#FFFFFF",
    lettering: "#131A33",
    wash: "#232F5C",
    bandName: "#8C99C9",
    worktop: "#242C47",
    notice: "#3A3216",
    onNotice: "#F6E9BC",
    stop: "#FF9B8F",
    stopWash: "#43201E",
    sweet: "#DDA24B",
    acid: "#A1C43D",
    water: "#7DB9DB",
    track: "#2B3350",
    lemon: "#E2D79A",
    plain: "#BFD2DC",
    rose: "#C97A7C",
  },
};

type Tokens = typeof tokens.light;

declare module "@mui/material/styles" {
  interface Palette {
    kp: Tokens;
  }
  interface PaletteOptions {
    kp: Tokens;
  }
  interface TypographyVariants {
    fontFamilyDisplay: string;
  }
}

const display = '"Bricolage Grotesque Variable", system-ui, sans-serif';
const text = '"Figtree Variable", system-ui, sans-serif';

/** The CSS variable of a colour, for drawings. */
export function colour(name: keyof Tokens): string {
  return `var(--kp-palette-kp-${name})`;
}

/** Names, big figures, whatever is meant to be seen first. */
export const displayFont = { fontFamily: display } as const;

function palette(scheme: Tokens) {
  return {
    kp: scheme,
    primary: { main: scheme.cobalt, contrastText: scheme.onCobalt },
    error: { main: scheme.stop },
    background: { default: scheme.ground, paper: scheme.enamel },
    text: { primary: scheme.ink, secondary: scheme.muted },
    divider: scheme.hairline,
  };
}

export const theme = createTheme({
  cssVariables: { cssVarPrefix: "kp", colorSchemeSelector: "data-scheme" },
  colorSchemes: {
    light: { palette: palette(tokens.light) },
    dark: { palette: palette(tokens.dark) },
  },
  shape: { borderRadius: 10 },
  typography: {
    fontFamily: text,
    fontSize: 15,
    htmlFontSize: 16,
    body1: { fontSize: "0.9375rem", lineHeight: 1.45 },
    body2: { fontSize: "0.8125rem", lineHeight: 1.4 },
    caption: { fontSize: "0.78rem", lineHeight: 1.35 },
    h1: { ...displayFont, fontSize: "2.125rem", fontWeight: 700, letterSpacing: "-0.02em" },
    h2: { ...displayFont, fontSize: "1.25rem", fontWeight: 700, letterSpacing: "-0.01em" },
    button: { textTransform: "none", fontWeight: 600, fontSize: "0.9375rem" },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        ":root": { "--kp-display": display },
        body: { fontVariantNumeric: "tabular-nums", overflowX: "hidden" },
        "main a": { color: colour("cobalt") },
        ":focus-visible": { outline: `2px solid ${colour("cobalt")}`, outlineOffset: 2 },
        // In a row, what stands beside a field is level with the field and not with its name.
        ".MuiBox-root:has(> .MuiFormControl-root > .MuiInputLabel-root):not(:has(> .MuiFormControl-root > .MuiFormHelperText-root))":
          { alignItems: "flex-end" },
        // A link that stands alone is hit by a mouse and, on a phone, by a finger.
        "a.kp-finger": { display: "inline-flex", alignItems: "center", minHeight: 28 },
        "@media (max-width: 600px)": {
          "a.kp-finger": { minHeight: 44, minWidth: 44 },
          ".MuiAutocomplete-popupIndicator, .MuiAutocomplete-clearIndicator": {
            width: 44,
            height: 44,
          },
        },
        ".kp-level": { transition: "y 150ms, height 150ms" },
        // Under the finger nothing lags behind.
        ".scrubbing .kp-level": { transition: "none" },
        "@media print": {
          "header, .no-print, section[aria-label='The counter']": { display: "none !important" },
          body: { background: "#fff", color: "#000" },
          // On paper it is always day.
          ":root, [data-scheme]": Object.fromEntries(
            Object.entries({ ...tokens.light, ground: "#FFFFFF", enamel: "#FFFFFF" }).map(
              ([name, value]) => [`--kp-palette-kp-${name}`, `${value} !important`],
            ),
          ),
        },
        "@media (prefers-reduced-motion: reduce)": {
          "*, *::before, *::after": {
            transitionDuration: "0s !important",
            animationDuration: "0s !important",
          },
        },
      },
    },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiFormControlLabel: { styleOverrides: { root: { minHeight: 44 } } },
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: { root: { borderRadius: 10, minHeight: 44, paddingInline: 16 } },
    },
    MuiPaper: {
      defaultProps: { elevation: 0 },
      styleOverrides: {
        root: { backgroundImage: "none", border: `1px solid ${colour("hairline")}` },
      },
    },
    // What opens over the screen is told apart by its line, not by a shadow.
    MuiPopover: {
      defaultProps: { elevation: 0 },
      styleOverrides: { paper: { border: `2px solid ${colour("cobalt")}`, borderRadius: 14 } },
    },
    MuiDialog: {
      styleOverrides: {
        paper: {
          boxShadow: "none",
          border: `2px solid ${colour("cobalt")}`,
          borderRadius: 16,
        },
      },
    },
    // A field is a piece of enamel: white, with a cobalt foot, and its name in words above it.
    MuiOutlinedInput: {
      defaultProps: { notched: false },
      styleOverrides: {
        root: {
          backgroundColor: colour("enamel"),
          // A wet finger finds it.
          minHeight: 44,
          "& .MuiOutlinedInput-notchedOutline": {
            top: 0,
            border: 0,
            borderBottom: `3px solid ${colour("cobalt")}`,
            "& legend": { display: "none" },
          },
          "&:hover .MuiOutlinedInput-notchedOutline": { borderColor: colour("cobalt") },
          "&.Mui-focused .MuiOutlinedInput-notchedOutline": {
            border: `2px solid ${colour("cobalt")}`,
            borderBottomWidth: 3,
          },
          "&.Mui-error .MuiOutlinedInput-notchedOutline": { borderColor: colour("stop") },
          "&.Mui-disabled .MuiOutlinedInput-notchedOutline": { borderColor: colour("hairline") },
        },
      },
    },
    MuiInputLabel: {
      defaultProps: { shrink: true },
      styleOverrides: {
        root: {
          position: "static",
          transform: "none",
          maxWidth: "none",
          marginBottom: 4,
          fontSize: "0.8125rem",
          lineHeight: 1.3,
          whiteSpace: "normal",
        },
      },
    },
    MuiMenuItem: { styleOverrides: { root: { minHeight: 44 } } },
  },
});
