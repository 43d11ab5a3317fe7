import { type Work } from "../maths/work";
import { linesOfText, ProgramError } from "./gcode";
import { MoveList, type Move, type Moves } from "./moves";

/** A plotter's unit, in mm. @see HP, "Interfacing and Programming Manual, HP-GL", 1983 */
const PLOTTER_MM = 0.025;

/** What one line of a plot comes to. */
export interface PlotRead {
  readonly moves: readonly Move[];
  readonly pass?: string;
  /** Answers that it asks for once everything before is done. */
  readonly asks: number;
}

/** What of a cutter reading its programs needs. */
export interface PlotMachine {
  readonly travelMmPerS: number;
  readonly cutMmPerS: number;
  readonly liftMs: number;
}

/**
 * Reads HP-GL line by line and keeps what stands from one to the next: IN, IP, SC, VS, SP, PU, PD, PA, OA, CO. Lowering and
 * raising the knife take time.
 */
export class HpglReader {
  private x = 0;
  private y = 0;
  private down = false;
  private mmPerS: number;
  private unit = { x: PLOTTER_MM, y: PLOTTER_MM };
  private between = { x: PLOTTER_MM, y: PLOTTER_MM };

  constructor(private readonly machine: PlotMachine) {
    this.mmPerS = machine.cutMmPerS;
  }

  get place(): readonly [number, number] {
    return [this.x, this.y];
  }

  /** Whether the knife is down. */
  get isDown(): boolean {
    return this.down;
  }

  /** @throws ProgramError */
  read(text: string, line: number): PlotRead {
    const moves: Move[] = [];
    let asks = 0;
    let pass: string | undefined;
    for (const [, command, rest] of text.matchAll(/([A-Z]{2})("[^"]*"|[^;A-Z"]*);?/g)) {
      const numbers = rest.startsWith('"') || rest.trim() === "" ? [] : rest.split(",").map(Number);
      if (numbers.some((n) => !Number.isFinite(n)))
        throw new ProgramError(line, text, `${command} with what is no number`);
      switch (command) {
        case "CO":
          if (rest.startsWith('"pass ')) pass = rest.slice(6, -1);
          break;
        case "IN":
          this.down = false;
          this.unit = { x: PLOTTER_MM, y: PLOTTER_MM };
          break;
        case "IP":
          this.between = {
            x: (numbers[2] - numbers[0]) * PLOTTER_MM,
            y: (numbers[3] - numbers[1]) * PLOTTER_MM,
          };
          break;
        case "SC":
          this.unit = {
            x: this.between.x / (numbers[1] - numbers[0]),
            y: this.between.y / (numbers[3] - numbers[2]),
          };
          break;
        case "VS":
          if (!(numbers[0] > 0)) throw new ProgramError(line, text, "VS without a speed");
          this.mmPerS = numbers[0] * 10;
          break;
        case "SP":
          break;
        case "OA":
          asks++;
          break;
        case "PU":
        case "PD":
        case "PA":
          this.go(command, numbers, line, moves, text);
          break;
        default:
          throw new ProgramError(line, text, `${command} is not known here`);
      }
    }
    return { moves, asks, ...(pass === undefined ? {} : { pass }) };
  }

  private go(command: string, numbers: readonly number[], line: number, moves: Move[], text: string): void {
    if (numbers.length % 2 === 1) throw new ProgramError(line, text, "a place of one number");
    const wasDown = this.down;
    if (command !== "PA") this.down = command === "PD";
    if (this.down !== wasDown) {
      const pause = this.machine.liftMs / 1000;
      moves.push({ x: this.x, y: this.y, power: 0, speed: 1, pause, line });
    }
    for (let k = 0; k < numbers.length; k += 2) {
      [this.x, this.y] = [numbers[k] * this.unit.x, numbers[k + 1] * this.unit.y];
      const speed = this.down ? this.mmPerS : this.machine.travelMmPerS;
      moves.push({ x: this.x, y: this.y, power: this.down ? 1 : 0, speed, pause: 0, line });
    }
  }
}

/** All that a plot has a holder do. @throws ProgramError */
export function* movesOfHpgl(bytes: Uint8Array, machine: PlotMachine): Work<Moves> {
  const moves = new MoveList(0, 0);
  const reader = new HpglReader(machine);
  let line = 0;
  for (const text of linesOfText(bytes)) {
    line++;
    if (line % 500 === 0) yield 0.5;
    const read = reader.read(text, line);
    if (read.pass !== undefined) moves.beginPass(read.pass);
    for (const move of read.moves) moves.add(move);
  }
  return moves.done();
}
