import { cornerSpeed, entrySpeed, placeAfter, secondsOf, type Motion } from "../machine/motion";
import { type Move } from "../machine/moves";

/** A stretch of a move along which the beam was on, or the knife down: places in mm of the machine, y up. */
export interface Burned {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
  readonly power: number;
}

/** A move that was made, and when. */
export interface Made {
  readonly line: number;
  /** How many moves of the same line come before it. */
  readonly part: number;
  /** Seconds of the machine's own clock. */
  readonly from: number;
  readonly to: number;
  /** From where to where. */
  readonly x0: number;
  readonly y0: number;
  readonly x: number;
  readonly y: number;
  readonly burned: readonly Burned[];
  /** When the head sets off, after whatever it waited for. */
  readonly begins: number;
  /** Way of the head, in mm, and its speed at the beginning, along the way at most, and at the end, in mm/s. */
  readonly length: number;
  readonly speeds: readonly [begin: number, most: number, end: number];
}

/** How far along a move the head is at a second of the machine's clock, in mm. */
export function wayAt(
  { begins, length, speeds: [begin, most, end] }: Made,
  second: number,
  accel: number,
): number {
  if (length === 0 || second <= begins) return 0;
  return placeAfter(second - begins, length, begin, most, end, accel);
}

/** What of a burned stretch lies between two ways along its move, from the first on and before the second. */
export function burnedBetween(made: Made, from: number, to: number): Burned[] {
  const { length, x, y, burned } = made;
  const out: Burned[] = [];
  for (const stretch of burned) {
    const [ux, uy] = [stretch.x1 - stretch.x0, stretch.y1 - stretch.y0];
    const long = Math.sqrt(ux * ux + uy * uy);
    if (long === 0) continue;
    const wayOf = (px: number, py: number) => length - Math.sqrt((x - px) * (x - px) + (y - py) * (y - py));
    const [a, b] = [wayOf(stretch.x0, stretch.y0), wayOf(stretch.x1, stretch.y1)];
    const [c, d] = [Math.max(a, from), Math.min(b, to)];
    if (d <= c) continue;
    const at = (way: number): readonly [number, number] =>
      way === a
        ? [stretch.x0, stretch.y0]
        : way === b
          ? [stretch.x1, stretch.y1]
          : [stretch.x0 + (ux * (way - a)) / long, stretch.y0 + (uy * (way - a)) / long];
    const [[x0, y0], [x1, y1]] = [at(c), at(d)];
    out.push({ x0, y0, x1, y1, power: stretch.power });
  }
  return out;
}

export interface ControllerMachine extends Motion {
  /** From when the beam is told until it is there. */
  readonly responseMs?: number;
  /** It begins moves once it knows them up to where it stands still, or so many further. */
  readonly lookAhead: number;
  /** It takes so long to come to rest, wherever it stands still, in seconds. */
  readonly settleSeconds?: number;
  /** It takes no less for any move, in seconds. */
  readonly leastSeconds?: number;
}

/** A head slower than this share of its speed all but stands still. */
const STILL = 0.1;

interface Waiting {
  readonly move: Move;
  readonly length: number;
  readonly ux: number;
  readonly uy: number;
  /** As fast as the corner before it lets it begin. */
  readonly corner: number;
}

/**
 * The inside of a simulated machine: it takes moves as they come, looks so many ahead and no further, and tells what it
 * made, with a beam that answers late. It knows nothing of how a run was planned.
 */
export class Controller {
  private waiting: Waiting[] = [];
  private clock = 0;
  private speed = 0;
  private x: number;
  private y: number;
  private readonly edges: { at: number; power: number }[] = [];
  private told = 0;
  private power = 0;
  private last: Waiting | null = null;
  private lineOfLast = -1;
  private partOfLast = 0;

  constructor(
    private readonly machine: ControllerMachine,
    at: readonly [number, number] = [0, 0],
  ) {
    [this.x, this.y] = at;
  }

  /** Seconds of its own clock that it has been at work. */
  get seconds(): number {
    return this.clock;
  }

  get place(): readonly [number, number] {
    return [this.x, this.y];
  }

  get waits(): number {
    return this.waiting.length;
  }

  /** Takes a move; whatever of earlier ones is then certain is made. */
  take(move: Move): Made[] {
    const from = this.waiting.at(-1)?.move ?? { x: this.x, y: this.y };
    const [dx, dy] = [move.x - from.x, move.y - from.y];
    const length = Math.sqrt(dx * dx + dy * dy);
    const [ux, uy] = length > 0 ? [dx / length, dy / length] : [0, 0];
    const before = this.last;
    const corner =
      length === 0 || move.pause > 0 || !before
        ? 0
        : Math.min(move.speed, before.move.speed, cornerSpeed(ux * before.ux + uy * before.uy, this.machine));
    const taken = { move, length, ux, uy, corner };
    if (length > 0) this.last = taken;
    // A row is not begun before its end is known, so that it is run at one speed however slowly its lines come. Rows end
    // where the head, beam off, all but stands still.
    const ends = move.power === 0 && before?.move.power === 0 && corner < STILL * move.speed;
    const ready = ends || corner === 0 ? this.waiting.length : 0;
    this.waiting.push(taken);
    if (ready > 0) return this.make(ready);
    return this.waiting.length >= 2 * this.machine.lookAhead ? this.make(this.machine.lookAhead) : [];
  }

  /** Nothing more comes for now: it makes what it has and stands still. */
  rest(): Made[] {
    const made = this.make(this.waiting.length);
    this.last = null;
    this.speed = 0;
    return made;
  }

  /** The beam off, whatever was told before; what waits is forgotten, and the head stays where it is. */
  halt(): void {
    this.waiting = [];
    this.edges.length = 0;
    this.last = null;
    this.lineOfLast = -1;
    [this.told, this.power, this.speed] = [0, 0, 0];
  }

  /** What was made before now is read from a journal. */
  standAt(x: number, y: number, seconds: number): void {
    this.halt();
    [this.x, this.y, this.clock] = [x, y, seconds];
  }

  private make(count: number): Made[] {
    const { accelMmPerS2: accel } = this.machine;
    const entry = new Float64Array(this.waiting.length + 1);
    for (let k = this.waiting.length - 1; k >= 0; k--) {
      const { length, corner, move } = this.waiting[k];
      if (length === 0) entry[k] = move.pause > 0 ? 0 : entry[k + 1];
      else entry[k] = Math.min(corner, entrySpeed(entry[k + 1], length, accel));
    }
    const made: Made[] = [];
    for (let k = 0; k < count; k++) {
      const { move, length } = this.waiting[k];
      const exit = length > 0 ? Math.min(entry[k + 1], entrySpeed(this.speed, length, accel)) : this.speed;
      made.push(this.one(move, length, exit));
    }
    this.waiting = this.waiting.slice(count);
    return made;
  }

  private one(move: Move, length: number, exit: number): Made {
    const { accelMmPerS2: accel, responseMs = 0, settleSeconds = 0, leastSeconds = 0 } = this.machine;
    const from = this.clock;
    if (this.speed === 0 && length > 0) this.clock += settleSeconds;
    if (move.pause > 0) this.clock += move.pause;
    if (move.power !== this.told) {
      this.edges.push({ at: this.clock + responseMs / 1000, power: move.power });
      this.told = move.power;
    }
    const begins = this.clock;
    const began = this.speed;
    const seconds = length > 0 ? secondsOf(length, this.speed, move.speed, exit, accel) : 0;
    const [x0, y0] = [this.x, this.y];
    const [dx, dy] = length > 0 ? [(move.x - x0) / length, (move.y - y0) / length] : [0, 0];
    const burned: Burned[] = [];
    let done = 0;
    const upTo = (came: number): void => {
      if (this.power > 0 && came > done)
        burned.push({
          ...{ x0: x0 + dx * done, y0: y0 + dy * done, x1: x0 + dx * came, y1: y0 + dy * came },
          power: this.power,
        });
      done = came;
    };
    while (this.edges.length > 0 && this.edges[0].at <= begins + seconds) {
      const { at, power } = this.edges.shift()!;
      upTo(
        length > 0 ? placeAfter(Math.max(0, at - begins), length, this.speed, move.speed, exit, accel) : 0,
      );
      this.power = power;
    }
    upTo(length);
    this.clock = Math.max(begins + seconds, from + leastSeconds);
    [this.x, this.y] = [move.x, move.y];
    if (length > 0) this.speed = exit;
    this.partOfLast = move.line === this.lineOfLast ? this.partOfLast + 1 : 0;
    this.lineOfLast = move.line;
    const { line, x, y, speed } = move;
    const speeds = [began, speed, exit] as const;
    return {
      line,
      part: this.partOfLast,
      from,
      to: this.clock,
      x0,
      y0,
      x,
      y,
      burned,
      begins,
      length,
      speeds,
    };
  }
}
