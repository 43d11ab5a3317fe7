/** Bytes that are not what they are said to be. */
export class FormatError extends Error {
  constructor(why: string) {
    super(why);
    this.name = "FormatError";
  }
}
