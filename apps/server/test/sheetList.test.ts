import { type RenderView, type SheetView } from "@hardline/contract";
import sharp from "sharp";
import { addTicket, ask, newDatabase, startProgram } from "../../../e2e/src/harness";

test("a sheet that was laid before its pieces were made is looked at by the list once they are", async () => {
  const program = await startProgram(await newDatabase(), []);
  try {
    const url = (path: string) => `${program.url}${path}`;
    const picture = await sharp({ create: { width: 60, height: 40, channels: 3, background: "#333" } })
      .png()
      .toBuffer();
    const stages = [
      { stage: "size", widthMm: 20, dotsPerInch: 254 },
      { stage: "cutLine", from: "shape" },
    ];
    const { route } = await addTicket(program.url, picture, "p.png", stages);
    const body = {
      stock: { widthMm: 100, heightMm: 60 },
      pieces: [{ routeId: route.id, count: 1 }],
    };
    const sheet = await ask<SheetView>(url("/api/sheets"), "POST", { name: "Early", body });
    await ask<SheetView>(url(`/api/sheets/${sheet.id}`), "PUT", {
      ...{ name: "Early", body, version: sheet.version },
      placings: [{ piece: 0, sheet: 0, xMm: 30, yMm: 30, turnDegrees: 0, mirrored: false }],
      revisions: { [route.id]: route.revision },
    });
    const own = async () => (await ask<SheetView[]>(url("/api/sheets"))).find((s) => s.id === sheet.id)!;
    expect([(await own()).placed, (await own()).checks]).toEqual([1, []]);
    const { id } = await ask<RenderView>(url(`/api/routes/${route.id}/piece?bleedMm=0`), "POST");
    for (let state = ""; state !== "done";) ({ state } = await ask<RenderView>(url(`/api/renders/${id}`)));
    // Nobody waits for it: the list answers, and has it the next time, or the one after.
    let { checks, placings } = await own();
    for (let k = 0; k < 100 && checks.length === 0; k++) {
      await new Promise((r) => setTimeout(r, 100));
      ({ checks, placings } = await own());
    }
    expect(checks.map((c) => c.id)).toContain("sheetOverlap");
    expect(placings).toEqual([]);
  } finally {
    await program.stop();
  }
}, 60000);
