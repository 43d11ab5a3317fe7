/** A file that cannot be taken in as artwork; the message says why and what is allowed. */
export class IntakeError extends Error {
  constructor(message: string) {
    super(message);
    this.name = "IntakeError";
  }
}

/** The file is of a kind that is read, but damaged. */
export const broken = (kind: string, reason: string): IntakeError =>
  new IntakeError(`The ${kind} file is broken and cannot be read whole (${reason}).`);

/** The file is whole, but means its pixels in a way that is not read; `way` says what to do instead. */
export const notRead = (what: string, way: string): IntakeError =>
  new IntakeError(`${what} is not read. ${way}`);
