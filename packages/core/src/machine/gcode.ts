import { type Work } from "../maths/work";
import { MoveList, type Move, type Moves } from "./moves";
import { decimal } from "./program";
import { FULL_POWER } from "./words";

/** A line of a program that the machine cannot do. */
export class ProgramError extends Error {
  constructor(
    readonly line: number,
    readonly text: string,
    readonly why: string,
  ) {
    super(`line ${line}, ${JSON.stringify(text.slice(0, 60))}: ${why}`);
    this.name = "ProgramError";
  }
}

/** What one line of a program comes to. */
export interface LineRead {
  readonly move?: Move;
  readonly pass?: string;
  /** The program ends here. */
  readonly end?: true;
}

/**
 * Reads G-code line by line and keeps what stands from one to the next: G0 and G1, G4, G21, G90, M2 to M5, F, S, N.
 * Comments `(pass ...)` name the pass that follows.
 * @see ISO 6983-1
 */
export class GcodeReader {
  private x = 0;
  private y = 0;
  private fast = true;
  private feed = 0;
  private power = 0;
  private on = false;
  private scaled = false;
  /** Where the row began that the head is on: where it last came to from another height. */
  private rowX = 0;
  private rowY = 0;
  /** Of the last line that had a number. */
  number = 0;

  /** @param at  where the head is */
  constructor(
    private readonly machine: {
      readonly travelMmPerS: number;
      /** It leaves the beam as it is in G0, as some do. */
      readonly beamInTravel?: boolean;
    },
    at: readonly [number, number] = [0, 0],
  ) {
    [this.x, this.y] = at;
    [this.rowX, this.rowY] = at;
  }

  /** Whether the last move was a travel. */
  get isTravel(): boolean {
    return this.fast;
  }

  /** Whether a head that stands still would burn: the beam on, its power not following the speed. */
  get burnsStanding(): boolean {
    return this.on && !this.scaled && this.power > 0;
  }

  /**
   * What is said to a machine that has forgotten everything, so that it goes on at a place as if it had not been broken
   * off: the head is brought there dark, along a row with its whole run-up, and only then is the beam told of.
   *
   * @param next  the line that follows
   */
  goOnAt(x: number, y: number, next: string): string[] {
    const after: GcodeReader = Object.assign(Object.create(GcodeReader.prototype), this);
    after.read(next, this.number + 1);
    const words = (v: number): string => decimal(v);
    const to = (px: number, py: number): string => `X${words(px)}Y${words(py)}S0`;
    const feed = this.feed > 0 ? [`G1F${words(this.feed * 60)}`] : [];
    const on = this.on ? (this.scaled ? "M4S0" : "M3S0") : "M5S0";
    const way = this.fast ? ["G0"] : [];
    const said = ["G21G90", "M5S0"];
    if (after.fast) return [...said, on, ...feed, ...way];
    if (this.on && !this.scaled && feed.length > 0)
      return [...said, `G0${to(this.rowX, this.rowY)}`, on, ...feed, `G1${to(x, y)}`, ...way];
    const power = this.scaled ? [`S${Math.round(this.power * FULL_POWER)}`] : [];
    return [...said, `G0${to(x, y)}`, on, ...feed, ...power, ...way];
  }

  get place(): readonly [number, number] {
    return [this.x, this.y];
  }

  /** @throws ProgramError */
  read(text: string, line: number): LineRead {
    let [x, y, pause] = [this.x, this.y, 0];
    let moves = false;
    let end = false;
    let pass: string | undefined;
    for (let k = 0; k < text.length;) {
      const code = text.charCodeAt(k);
      if (code <= 32) {
        k++;
        continue;
      }
      if (code === 40) {
        const close = text.indexOf(")", k);
        if (close < 0) throw new ProgramError(line, text, "a comment that does not end");
        const comment = text.slice(k + 1, close);
        if (comment.startsWith("pass ")) pass = comment.slice(5);
        k = close + 1;
        continue;
      }
      let to = k + 1;
      while (to < text.length && isOfNumber(text.charCodeAt(to))) to++;
      const value = Number(text.slice(k + 1, to));
      if (to === k + 1 || !Number.isFinite(value))
        throw new ProgramError(line, text, "a word without a number");
      switch (text[k]) {
        case "N":
          this.number = value;
          break;
        case "G":
          if (value === 0) this.fast = true;
          else if (value === 1) this.fast = false;
          else if (value !== 4 && value !== 21 && value !== 90)
            throw new ProgramError(line, text, `G${value} is not known here`);
          break;
        case "M":
          if (value === 3 || value === 4) [this.on, this.scaled] = [true, value === 4];
          else if (value === 5) this.on = false;
          else if (value === 2) end = true;
          else throw new ProgramError(line, text, `M${value} is not known here`);
          break;
        case "X":
          x = value;
          moves = true;
          break;
        case "Y":
          y = value;
          moves = true;
          break;
        case "F":
          this.feed = value / 60;
          break;
        case "S":
          this.power = value / FULL_POWER;
          break;
        case "P":
          pause = value;
          break;
        default:
          throw new ProgramError(line, text, `${text[k]} is not known here`);
      }
      k = to;
    }
    if (end) return { end };
    if (!moves && pause === 0) return pass === undefined ? {} : { pass };
    const speed = this.fast ? this.machine.travelMmPerS : this.feed;
    if (moves && !(speed > 0)) throw new ProgramError(line, text, "a move without a speed");
    const lit = !this.fast || this.machine.beamInTravel === true;
    const power = moves && lit && this.on ? this.power : 0;
    if (y !== this.y) [this.rowX, this.rowY] = [x, y];
    [this.x, this.y] = [x, y];
    return { move: { x, y, power, speed, pause, line } };
  }
}

const isOfNumber = (code: number): boolean => (code >= 48 && code <= 57) || code === 46 || code === 45;

/** Lines read between two slices. */
const AT_ONCE = 20000;

/** All that a program has a head do. @throws ProgramError */
export function* movesOfGcode(bytes: Uint8Array, reader: GcodeReader): Work<Moves> {
  const moves = new MoveList(0, 0);
  let line = 0;
  for (const text of linesOfText(bytes)) {
    line++;
    if (line % AT_ONCE === 0) yield 0.5;
    const { move, pass, end } = reader.read(text, line);
    if (pass !== undefined) moves.beginPass(pass);
    if (move) moves.add(move);
    if (end) break;
  }
  return moves.done();
}

/** Lines of a text in bytes, one after another, so that it need not stand twice. */
export function* linesOfText(bytes: Uint8Array): Generator<string> {
  const decoder = new TextDecoder();
  for (let from = 0; from < bytes.length;) {
    let to = bytes.indexOf(10, from);
    if (to < 0) to = bytes.length;
    yield decoder.decode(bytes.subarray(from, to));
    from = to + 1;
  }
}
