import { openBrowser, openPage, settled } from "./browser";
import { at, dragSlider } from "./follow";
import { addTicket, newDatabase, photographOf, startProgram } from "./harness";

/*
 * How fast the print on its garment follows a dragged setting of an ink, six tonal inks at 16 megapixels: one that
 * moves a plate alone, one that has the white choked anew, and one with which the whole art is parted anew.
 */
const INKS = ["#ffffff", "#f2c230", "#c8102e", "#2f7fc1", "#2c7a3f", "#15181d"].map((colour, k) => ({
  ...{ name: `ink ${k + 1}`, colour, role: k === 0 ? "underbase" : "ink", opacity: 0.9, strength: 0.9 },
  ...(k === 0 ? { spreadMm: -0.2 } : {}),
}));
const DRAGGED = [
  { ink: 3, label: "Strength", moves: "a plate's strength" },
  { ink: 1, label: "Choke", moves: "the white's choke" },
  { ink: 3, label: "Opaque", moves: "an ink's opacity" },
];

async function main(): Promise<void> {
  const program = await startProgram(await newDatabase());
  const { browser, close } = await openBrowser();
  const { ticket } = await addTicket(program.url, photographOf(3000, 2000), "light.jpg", [
    { stage: "size", widthMm: 490, dotsPerInch: 254 },
    { stage: "films", separate: "tonal", garment: "#101012", inks: INKS },
  ]);
  const page = await openPage(browser, `${program.url}/tickets/${ticket.id}`);
  await page.waitForSelector("canvas[data-shown]", { timeout: 120000 });
  await settled(page, 180000);
  console.log(
    "| ink setting dragged, 16 MP, six tonal inks | median ms | 90 % within ms | pictures in a 2 s drag | tasks over 50 ms | exact after the hand rests, ms |",
  );
  console.log("| --- | ---: | ---: | ---: | ---: | ---: |");
  for (const { ink, label, moves } of DRAGGED) {
    await page
      .locator(`ol[aria-label="Inks in print order"] li:nth-child(${ink}) button[aria-expanded="false"]`)
      .click();
    const { waits, longTasks, frames, exact } = await dragSlider(page, label);
    console.log(
      `| ${moves} | ${at(waits, 0.5)} | ${at(waits, 0.9)} | ${frames} | ${longTasks.length} | ${exact.toFixed(0)} |`,
    );
    await page
      .locator(`ol[aria-label="Inks in print order"] li:nth-child(${ink}) button[aria-expanded="true"]`)
      .click();
  }
  await close();
  await program.stop();
}

main().catch((error: unknown) => {
  console.error(error);
  process.exit(1);
});
