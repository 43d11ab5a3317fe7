export interface Backing {
  readonly name: string;
  readonly colour: number;
}

/** Colours to lay behind the art, in the order in which the key steps through them. */
export const BACKINGS: readonly Backing[] = [
  { name: "white", colour: 0xffffff },
  { name: "slate", colour: 0x3a3d42 },
  { name: "amber", colour: 0xdfa022 },
  { name: "teal", colour: 0x2a9d94 },
  { name: "magenta", colour: 0xd43a7a },
];

export const css = (colour: number): string => `#${colour.toString(16).padStart(6, "0")}`;

/** What marks look like: dark where the material burns dark, pale where it burns pale. */
export function markColour(material: string | undefined): number {
  return material === "burns-pale" ? 0xe9e7e1 : 0x15181d;
}

/** The backing that looks most like the material: white where it burns dark, slate where it burns pale. */
export const usualBacking = (material: string | undefined): number => (material === "burns-pale" ? 1 : 0);
