import { type Film } from "@hardline/core/machine/kinds/kind";
import { machineKindOf, type Machine } from "@hardline/core/machine/machine";
import { timelineOf, type Timeline } from "@hardline/core/machine/timeline";
import { runToEnd } from "@hardline/core/maths/work";
import { expose, transfer } from "comlink";

/** A program as it is played: when the head is where, and the dots that it carries, where it does. */
export interface Played {
  readonly timeline: Timeline;
  readonly film: Film | null;
}

/** Reads the bytes that are sent, and says when the head is where. */
const player = {
  async load(machine: Machine, program: string): Promise<Played> {
    const response = await fetch(program);
    if (!response.ok) throw new Error(`The program was not handed out: ${response.status}`);
    const bytes = new Uint8Array(await response.arrayBuffer());
    const kind = machineKindOf(machine);
    const film = kind.film ? runToEnd(kind.film(bytes, machine)) : null;
    const timeline = runToEnd(timelineOf(runToEnd(kind.moves(bytes, machine)), machine));
    const { length, entry, start, moves } = timeline;
    const arrays = [
      length,
      entry,
      start,
      moves.x,
      moves.y,
      moves.power,
      moves.speed,
      moves.pause,
      moves.line,
    ];
    const dots = film ? [film.bits.data.buffer] : [];
    return transfer({ timeline, film }, [...[...arrays, moves.pass].map((a) => a.buffer), ...dots]);
  },
};

export type Player = typeof player;
expose(player);
