import { type SheetView } from "@hardline/contract";
import { canonical } from "@hardline/core/settings/canonical";
import { type Placing } from "@hardline/core/sheet/arrangement";
import { type SheetBody } from "@hardline/core/sheet/sheetFile";
import { Keeper, type Shelf } from "../keeper/Keeper";

/** What of a sheet is changed by hand. */
export interface SheetAtWork {
  readonly name: string;
  readonly body: SheetBody;
  readonly placings: readonly Placing[];
}

/** A sheet as it goes to the server: with the revision of each piece that it was laid with. */
export interface SheetSave extends SheetAtWork {
  readonly revisions: Readonly<Record<string, number>>;
  readonly version: number;
}

/** How a sheet's keeper reaches the server. */
export interface SheetServer {
  readonly get: () => Promise<SheetView>;
  readonly put: (save: SheetSave) => Promise<SheetView>;
}

/** Keeps one sheet safe. */
export class SheetKeeper extends Keeper<SheetAtWork, SheetView> {
  private made: ReadonlyMap<string, { readonly revision: number }> = new Map();

  constructor(view: SheetView, { get, put }: SheetServer, shelf: Shelf) {
    const save = (version: number, value: SheetAtWork) =>
      put({ ...value, revisions: this.revisionsOf(value), version });
    super(SHEETS, view, { get, save }, shelf);
  }

  /** Tells which revision of each route its piece was made of. */
  laidWith(made: ReadonlyMap<string, { readonly revision: number }>): void {
    this.made = made;
  }

  private revisionsOf({ body }: SheetAtWork): Record<string, number> {
    const known = body.pieces.filter(({ routeId }) => this.made.has(routeId));
    return Object.fromEntries(known.map(({ routeId }) => [routeId, this.made.get(routeId)!.revision]));
  }
}

const SHEETS = {
  name: "sheet",
  valueOf: ({ name, body, placings }: SheetView): SheetAtWork => ({ name, body, placings }),
  withValue: (view: SheetView, value: SheetAtWork) => ({ ...view, ...value }),
  isSame: (a: SheetAtWork, b: SheetAtWork) => a === b || canonical(a) === canonical(b),
};
