import { CODE_OF_LINEAR, CODE_STEPS, LINEAR_OF_CODE } from "../colour/srgb";
import { inStretches, workSlice, type Work } from "../maths/work";
import { type Rgba } from "../raster/types";
import { solverOf, type OfColour } from "./amountCorners";
import { AmountTable, COARSE, FINE, type Mend } from "./amountTable";
import { lightOf, type Layer } from "./model";
import { type GivenAmount } from "./process";

export interface TonalWish {
  readonly layers: readonly (Layer & { readonly colour: number })[];
  /** 0xrrggbb */
  readonly garment: number;
  readonly given?: readonly (GivenAmount | undefined)[];
  readonly total?: number;
  /** For a first look: fewer corners of the cube of colours are worked out. */
  readonly quick?: boolean;
}

/**
 * Each pixel as amounts of the inks on the garment's colour. Where the art is not whole its colour is what is seen over
 * the garment; where there is none, there is no ink.
 *
 * @returns for each ink a plane of greys, 255 = bare
 */
export function* separateTonal(picture: Rgba, wish: TonalWish): Work<Uint8Array[]> {
  const seen = yield* workSlice(seenOn(picture, wish.garment), 0, 0.2);
  return yield* workSlice(tableFor(wish).planesOf(seen), 0.2, 1);
}

const tables = new Map<string, AmountTable>();
/** Tables that are kept, so that going back and forth between two settings does not solve anew. */
const MOST_TABLES = 6;

/** A table is asked for again with every change that leaves inks and garment as they are. */
function tableFor(wish: TonalWish): AmountTable {
  const { layers, garment, given, total, quick } = wish;
  const name = JSON.stringify([
    layers.map(({ colour, opacity }) => [colour, opacity]),
    garment,
    given,
    total,
    quick,
  ]);
  let table = tables.get(name);
  if (!table || table.isFull) {
    if (tables.size >= MOST_TABLES) tables.delete(tables.keys().next().value!);
    // Every colour that must be exact brings a plane of corners each way; a first look has to have the cloth alone.
    const exact = quick ? [garment] : [garment, ...layers.map((l) => l.colour)];
    const amounts = { garment: lightOf(garment), layers, given, total };
    const solver = solverOf(amounts);
    const solve: OfColour = (light, out) => solver.solve(light, out);
    // Where ink is held back, or for a first look, what is read between corners will do.
    const mend: Mend | undefined =
      quick || total !== undefined ? undefined : (light, out) => solver.mend(light, out);
    table = new AmountTable(solve, layers.length, quick ? COARSE : FINE, exact, mend, amounts);
    tables.set(name, table);
  }
  return table;
}

/** The picture's colours as they are seen over the garment, 0xbbggrr; soft pixels are mixed in linear light. */
export function* seenOn({ data, width, height }: Rgba, garment: number): Work<Uint32Array> {
  const count = width * height;
  const colours = new Uint32Array(data.buffer, data.byteOffset, count);
  let whole = true;
  yield* workSlice(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) if (colours[i] >>> 24 !== 255) whole = false;
    }),
    0,
    0.3,
  );
  if (whole) return colours;
  const out = new Uint32Array(count);
  const ground = [garment >> 16, (garment >> 8) & 255, garment & 255];
  const bare = ground[0] | (ground[1] << 8) | (ground[2] << 16);
  yield* workSlice(
    inStretches(count, (from, to) => {
      for (let i = from; i < to; i++) {
        const alpha = colours[i] >>> 24;
        if (alpha === 255 || alpha === 0) {
          out[i] = alpha === 0 ? bare : colours[i] & 0xffffff;
          continue;
        }
        let mixed = 0;
        for (let c = 0; c < 3; c++) {
          const light = LINEAR_OF_CODE[data[4 * i + c]];
          const under = LINEAR_OF_CODE[ground[c]];
          const code = CODE_OF_LINEAR[Math.round((under + ((light - under) * alpha) / 255) * CODE_STEPS)];
          mixed |= code << (8 * c);
        }
        out[i] = mixed;
      }
    }),
    0.3,
    1,
  );
  return out;
}
