import {
  type ArtworkView,
  type BatchItemView,
  type BatchView,
  type HouseRouteView,
} from "@hardline/contract";
import { readRoute } from "@hardline/core/route/route";
import sharp from "sharp";
import { ask, credentials, type Program, startProgram } from "./harness";

/** A batch of small pictures, all of them different. */
export async function batchOf(url: string, count: number, name: string, widthMm = 12): Promise<BatchView> {
  const route = readRoute({
    ...{ format: "hard-line-route", version: 1, name },
    stages: [{ stage: "size", widthMm, dotsPerInch: 254 }, { stage: "tone" }, { stage: "blackWhite" }],
  });
  const house = await ask<HouseRouteView>(`${url}/api/house-routes`, "POST", { name, route });
  const items: { name: string; artworkId: string }[] = [];
  for (let k = 0; k < count; k++) {
    const picture = await sharp({
      create: {
        width: 80 + (k % 7),
        height: 60,
        channels: 3,
        background: { r: k % 256, g: (k * 7) % 256, b: k >> 3 },
      },
    })
      .png()
      .toBuffer();
    const response = await fetch(`${url}/api/artworks?name=p${k}.png`, {
      method: "POST",
      headers: credentials(url),
      body: picture as Uint8Array<ArrayBuffer>,
    });
    items.push({ name: `picture ${k}`, artworkId: ((await response.json()) as ArtworkView).id });
  }
  return ask<BatchView>(`${url}/api/batches`, "POST", { name, houseRouteId: house.id, items });
}

/** Workers on a database, some of them killed at moments by chance and replaced. */
export class Workers {
  private readonly all: Program[] = [];
  kills = 0;

  constructor(
    private readonly databaseUrl: string,
    private readonly env: NodeJS.ProcessEnv = { HARDLINE_LEASE_SECONDS: "2" },
  ) {}

  async start(count: number): Promise<void> {
    // A few at once: each of them reads the whole program.
    for (let k = 0; k < count; k += 4)
      this.all.push(
        ...(await Promise.all(
          Array.from({ length: Math.min(4, count - k) }, () =>
            startProgram(this.databaseUrl, ["--role=worker"], this.env),
          ),
        )),
      );
  }

  async killOne(chance: number): Promise<void> {
    const [gone] = this.all.splice(Math.floor(chance * this.all.length), 1);
    this.kills++;
    await gone?.kill();
    this.all.push(await startProgram(this.databaseUrl, ["--role=worker"], this.env));
  }

  async stop(): Promise<void> {
    await Promise.all(this.all.splice(0).map((w) => w.kill()));
  }
}

/** Waits until nothing of a batch waits or is at work. */
export async function ended(url: string, id: string): Promise<{ batch: BatchView; items: BatchItemView[] }> {
  for (;;) {
    // Twenty workers on two cores leave the server waiting for its database now and then; it says so, and is asked again.
    const batch = await ask<BatchView>(`${url}/api/batches/${id}`).catch(() => null);
    if (batch && batch.counts.waiting + batch.counts.running === 0)
      return { batch, items: await ask<BatchItemView[]>(`${url}/api/batches/${id}/items`) };
    await new Promise((r) => setTimeout(r, 200));
  }
}
