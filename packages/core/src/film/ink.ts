import { type InkScreen } from "../dots/methods";
import { type CurvePoint } from "../tone/curve";

export type InkRole = "ink" | "underbase" | "highlight";

/** An ink of a set of films. */
export interface Ink {
  readonly name: string;
  /** #rrggbb */
  readonly colour: string;
  readonly opacity: number;
  readonly role: InkRole;
  /** How far its edges are moved, out if positive. */
  readonly spreadMm: number;
  /** How much of it is printed, of what the art asks for: 0..1. */
  readonly strength: number;
  /** How much of the underbase is wanted under it, 0..1. */
  readonly under: number;
  /** How its tones become dots. */
  readonly screen?: InkScreen;
  /** How its dots come out: share made, share seen. */
  readonly gain: readonly CurvePoint[];
  /** Threads to the centimetre of its mesh; left out where not known. */
  readonly meshPerCm?: number;
  /** Among inks of many tones: printed whole where the art has its colour. */
  readonly flat: boolean;
  /** Stays when inks are found anew. */
  readonly locked: boolean;
}
