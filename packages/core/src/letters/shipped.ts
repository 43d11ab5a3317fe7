/** A font that ships with the program. */
export interface ShippedFont {
  /** As routes name it. */
  readonly key: string;
  /** What it looks like, in a word. */
  readonly title: string;
  /** What its makers call it. */
  readonly name: string;
  readonly licence: string;
  readonly file: string;
}

const OFL = "SIL Open Font License 1.1";

/** Ten open fonts, one of each kind that a shop is asked for. */
export const SHIPPED_FONTS: readonly ShippedFont[] = [
  { key: "grotesque", title: "Grotesque", name: "Work Sans", licence: OFL, file: "grotesque.ttf" },
  { key: "serif", title: "Serif", name: "Source Serif 4", licence: OFL, file: "serif.ttf" },
  { key: "slab", title: "Slab", name: "Roboto Slab", licence: "Apache License 2.0", file: "slab.ttf" },
  { key: "rounded", title: "Rounded", name: "Varela Round", licence: OFL, file: "rounded.ttf" },
  { key: "stencil", title: "Stencil", name: "Saira Stencil One", licence: OFL, file: "stencil.ttf" },
  { key: "script", title: "Script", name: "Great Vibes", licence: OFL, file: "script.ttf" },
  { key: "blackletter", title: "Blackletter", name: "Pirata One", licence: OFL, file: "blackletter.ttf" },
  { key: "typewriter", title: "Typewriter", name: "Courier Prime", licence: OFL, file: "typewriter.ttf" },
  {
    key: "engraver",
    title: "Engraver, single lines",
    name: "Hard Line Engraver",
    licence: "Hershey fonts, free for any use",
    file: "engraver.otf",
  },
  { key: "sign", title: "Heavy sign", name: "Anton", licence: OFL, file: "sign.ttf" },
];

export const shippedFontOf = (key: string): ShippedFont | undefined =>
  SHIPPED_FONTS.find((font) => font.key === key);
