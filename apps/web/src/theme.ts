import { createTheme, type MantineColorsTuple } from "@mantine/core";

const stamp: MantineColorsTuple = [
  "#e6ebfb",
  "#cdd7f6",
  "#a3b4ee",
  "#7690e6",
  "#4f6fdd",
  "#3659d4",
  "#1f45c4",
  "#193aa8",
  "#142f8b",
  "#0f256f",
];

export const theme = createTheme({
  fontFamily: '"Archivo Variable", system-ui, sans-serif',
  fontFamilyMonospace: '"IBM Plex Mono", ui-monospace, monospace',
  black: "#15181d",
  primaryColor: "stamp",
  primaryShade: 6,
  colors: { stamp },
  defaultRadius: 3,
  fontSizes: { xs: "11.5px", sm: "13px", md: "14px", lg: "16px", xl: "20px" },
  components: {
    Tooltip: { defaultProps: { openDelay: 500, withArrow: true, color: "#15181d", fz: 12 } },
    Select: { defaultProps: { size: "xs", allowDeselect: false, checkIconPosition: "right" } },
    Modal: { defaultProps: { closeButtonProps: { "aria-label": "Close" } } },
    TextInput: { defaultProps: { size: "sm" } },
    ColorInput: {
      defaultProps: { eyeDropperButtonProps: { "aria-label": "Take a colour from the screen" } },
    },
    DateInput: { defaultProps: { clearButtonProps: { "aria-label": "No date" } } },
  },
});
