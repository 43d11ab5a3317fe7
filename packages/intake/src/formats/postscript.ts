import { notRead } from "../errors";
import { type Head } from "../found";

/** A program for a printer, as it is or behind a small picture of it. @see "Encapsulated PostScript File Format", 1992, 5.2 */
export const isPostScript = ({ starts, ascii }: Head): boolean =>
  starts(0xc5, 0xd0, 0xd3, 0xc6) || /^\s*%!/.test(ascii(0, 64));

/** Such programs are not run: they may do anything. */
export function refusePostScript(): never {
  throw notRead(
    "An EPS or PostScript file",
    "Save it as PDF from the program that made it: its shapes stay shapes.",
  );
}
