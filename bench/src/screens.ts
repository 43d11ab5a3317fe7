import { measure, SCREENS } from "./screenTable";

const LIMITS = { coverage: 1, tones: 100, frequency: 1, angle: 0.5 };

console.log(
  "| screen | coverage off, % of area (asked 1) | tones (100) | ruling off, % (1) | angle off, degrees (0.5) |",
);
console.log("| --- | ---: | ---: | ---: | ---: |");
let missed = 0;
for (const asked of SCREENS) {
  const { coverage, tones, frequency, angle } = measure(asked);
  if (
    coverage > LIMITS.coverage ||
    tones < LIMITS.tones ||
    frequency > LIMITS.frequency ||
    angle > LIMITS.angle
  )
    missed++;
  const { dotsPerInch, linesPerInch, angle: at, dot, smallestMark, smallestGap } = asked;
  const held =
    smallestMark || smallestGap ? `, marks from ${smallestMark ?? 1}, gaps from ${smallestGap ?? 1}` : "";
  console.log(
    `| ${linesPerInch} lines at ${at}°, ${dot}, ${dotsPerInch} dots/in${held} | ${coverage.toFixed(2)} | ${tones} | ${frequency.toFixed(3)} | ${angle.toFixed(3)} |`,
  );
}
if (missed) console.error(`${missed} screens off by more than asked`);
process.exitCode = missed ? 1 : 0;
