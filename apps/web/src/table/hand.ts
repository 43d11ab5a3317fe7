/** What a tool needs to know of a pointer besides where it is. */
export type Pointing = Pick<PointerEvent, "pointerType" | "pressure" | "shiftKey" | "altKey">;

/** What a tool does with the pointer over the light table, and what it draws there. */
export interface TableHand {
  readonly cursor: string;
  /** One line of help. */
  readonly help: string;
  /** What is drawn now, for whoever looks from outside. */
  readonly told?: string;
  /** It draws rulers along the top and the left, which need their room. */
  readonly rulers?: true;
  readonly down?: (e: Pointing, x: number, y: number) => void;
  /** Every place on the way, also of those that came together between two drawings of the screen. */
  readonly moved?: (e: Pointing, x: number, y: number) => void;
  readonly up?: () => void;
  readonly left?: () => void;
  readonly twice?: (x: number, y: number) => void;
  /** With the modifier held: up is more. */
  readonly wheel?: (up: boolean) => void;
  readonly draw?: (pen: CanvasRenderingContext2D) => void;
}
