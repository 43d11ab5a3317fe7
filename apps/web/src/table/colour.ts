/** 0xrrggbb as a style sheet writes it. */
export const css = (colour: number): string => `#${colour.toString(16).padStart(6, "0")}`;
