/** A font that words can be set in. */
export interface FontView {
  /** As routes name it: a word for one that ships, the SHA-256 of its file for one of the shop's. */
  readonly key: string;
  /** What it looks like, or what it calls itself. */
  readonly title: string;
  readonly name: string;
  readonly licence: string | null;
  /** It ships with the program. */
  readonly ships: boolean;
  /** Its letters are lines that are run along, not shapes. */
  readonly isLines: boolean;
  readonly bytes: number;
}

/** What was found in the file of a font. */
export interface FontRead {
  readonly name: string;
  readonly letters: number;
  readonly isLines: boolean;
}
