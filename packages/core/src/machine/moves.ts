/**
 * What a head does, one straight move after another, packed: move k goes from place k to place k + 1. Places are in
 * mm of the machine, y upwards from the lower left of its bed.
 */
export interface Moves {
  readonly count: number;
  readonly x: Float64Array;
  readonly y: Float64Array;
  /** 0..1 of full power, or 1 for a knife that is down; 0 where nothing is marked. */
  readonly power: Float32Array;
  /** Speed that was asked for, in mm a second. */
  readonly speed: Float32Array;
  /** Seconds that it stands still before the move. */
  readonly pause: Float32Array;
  /** Number of the line of the program that says so. */
  readonly line: Uint32Array;
  /** Which pass it belongs to; the names of passes in their order. */
  readonly pass: Uint16Array;
  readonly passes: readonly string[];
}

export interface Move {
  readonly x: number;
  readonly y: number;
  readonly power: number;
  readonly speed: number;
  readonly pause: number;
  readonly line: number;
}

/** Gathers moves into arrays that grow by doubling. */
export class MoveList {
  private count = 0;
  private room = 1024;
  private x = new Float64Array(this.room + 1);
  private y = new Float64Array(this.room + 1);
  private power = new Float32Array(this.room);
  private speed = new Float32Array(this.room);
  private pause = new Float32Array(this.room);
  private line = new Uint32Array(this.room);
  private pass = new Uint16Array(this.room);
  private readonly passes: string[] = [];

  constructor(x: number, y: number) {
    [this.x[0], this.y[0]] = [x, y];
  }

  /** What follows belongs to a pass of this name. */
  beginPass(name: string): void {
    this.passes.push(name);
  }

  add({ x, y, power, speed, pause, line }: Move): void {
    if (this.passes.length === 0) this.beginPass("run");
    if (this.count === this.room) this.grow();
    const k = this.count++;
    [this.x[k + 1], this.y[k + 1]] = [x, y];
    this.power[k] = power;
    this.speed[k] = speed;
    this.pause[k] = pause;
    this.line[k] = line;
    this.pass[k] = this.passes.length - 1;
  }

  done(): Moves {
    const { count } = this;
    return {
      ...{ count, passes: [...this.passes] },
      ...{ x: this.x.slice(0, count + 1), y: this.y.slice(0, count + 1) },
      ...{ power: this.power.slice(0, count), speed: this.speed.slice(0, count) },
      ...{ pause: this.pause.slice(0, count), line: this.line.slice(0, count) },
      pass: this.pass.slice(0, count),
    };
  }

  private grow(): void {
    this.room *= 2;
    const more = <A extends { set(from: A): void }>(from: A, to: A): A => (to.set(from), to);
    this.x = more(this.x, new Float64Array(this.room + 1));
    this.y = more(this.y, new Float64Array(this.room + 1));
    this.power = more(this.power, new Float32Array(this.room));
    this.speed = more(this.speed, new Float32Array(this.room));
    this.pause = more(this.pause, new Float32Array(this.room));
    this.line = more(this.line, new Uint32Array(this.room));
    this.pass = more(this.pass, new Uint16Array(this.room));
  }
}
