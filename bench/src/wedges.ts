import { measured, type Outcome } from "./wedgeTable";

/* Photographs of step wedges: which are taken, and how far what is read lies from what is on the material. */
const all: Outcome[] = [];
async function main(): Promise<void> {
  for await (const outcome of measured()) {
    all.push(outcome);
    const { shot, refused, off, fit } = outcome;
    const { lamp, table } = shot.shot;
    const how = `light ${lamp!.strength}, table ${table ? table.colour.toString(16) : "none"}, ${shot.width} px`;
    const what = refused ?? `off ${off.toFixed(1)} %, fit ${fit.toFixed(1)} %${off > 2 ? "  <<" : ""}`;
    console.error(`${shot.unseen ? "unseen" : "seen  "}  ${shot.name.padEnd(28)} ${how.padEnd(38)} ${what}`);
  }
  for (const unseen of [true, false]) {
    const part = all.filter((o) => o.shot.unseen === unseen);
    const taken = part.filter((o) => o.refused === null);
    const wrong = taken.filter((o) => o.off > 2);
    const worst = Math.max(0, ...taken.map((o) => o.off));
    console.error(
      `${unseen ? "unseen" : "seen"}: ${part.length} photographs, ${taken.length} taken, of them ${wrong.length} off by more than 2 %, the worst by ${worst.toFixed(1)} %`,
    );
  }
}
void main();
