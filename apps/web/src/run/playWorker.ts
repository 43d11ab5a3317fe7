import {
  finish,
  GcodeReader,
  movesOfGcode,
  movesOfHpgl,
  printerMoves,
  timelineOf,
  type Bits,
  type Machine,
  type Timeline,
} from "@hardline/core";
import { expose, transfer } from "comlink";

/** Reads the bytes that are sent, and says when the head is where. */
const player = {
  async load(machine: Machine, program: string): Promise<Timeline> {
    const bytes = new Uint8Array(await (await fetch(program)).arrayBuffer());
    const moves =
      machine.kind === "bed-laser"
        ? finish(movesOfGcode(bytes, new GcodeReader(machine)))
        : machine.kind === "knife-cutter"
          ? finish(movesOfHpgl(bytes, machine))
          : finish(printerMoves(await film(bytes), machine.dotsPerInch[0], machine));
    const timeline = finish(timelineOf(moves, machine));
    const arrays = [
      timeline.length,
      timeline.entry,
      timeline.start,
      moves.x,
      moves.y,
      moves.power,
      moves.speed,
    ];
    return transfer(
      timeline,
      [...arrays, moves.pause, moves.line, moves.pass].map((a) => a.buffer),
    );
  },
};

/** The dots of a TIFF are not decoded here: the film is played by its rows alone. */
async function film(bytes: Uint8Array): Promise<Bits> {
  const view = new DataView(bytes.buffer);
  const entries = view.getUint16(8, true);
  const tag = (wanted: number): number => {
    for (let k = 0; k < entries; k++)
      if (view.getUint16(10 + 12 * k, true) === wanted) return view.getUint32(18 + 12 * k, true);
    return 0;
  };
  const [width, height] = [tag(256), tag(257)];
  const stride = (width + 7) >> 3;
  return { width, height, stride, data: new Uint8Array(stride * height).fill(255) };
}

export type Player = typeof player;
expose(player);
