import { type CurveBody, type CurveView, type TicketView } from "@hardline/contract";
import { type Material } from "@hardline/core/material/material";
import { mmOfDots } from "@hardline/core/maths/units";
import { type CurvePoint } from "@hardline/core/tone/curve";
import { fitResponse } from "@hardline/core/wedge/fitResponse";
import { type WedgeReading } from "@hardline/core/wedge/readPhoto";
import { readReadings } from "@hardline/core/wedge/readings";
import { wedgeRoute } from "@hardline/core/wedge/wedge";
import { IntakeError } from "@hardline/intake";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { createHash } from "node:crypto";
import { createReadStream, createWriteStream } from "node:fs";
import { rm } from "node:fs/promises";
import { join } from "node:path";
import { pipeline } from "node:stream/promises";
import { ArtworksService } from "../artworks/artworks.service";
import { BlobStore } from "../blobs/blob.store";
import { Calculating } from "../calculating/calculating.service";
import { Database } from "../database/database.module";
import { Decoding } from "../decoding/decoding.service";
import { ProblemException } from "../http/problems";
import { doer } from "../people/acting";
import { RoutesService } from "../routes/routes.service";
import { TicketsService } from "../tickets/tickets.service";
import { MaterialsService } from "./materials.service";

/** Step wedges: made as jobs, measured, and what materials learn from them. */
@Injectable()
export class WedgesService {
  constructor(
    @Inject(Database) private readonly database: Database,
    @Inject(MaterialsService) private readonly materials: MaterialsService,
    @Inject(ArtworksService) private readonly artworks: ArtworksService,
    @Inject(TicketsService) private readonly tickets: TicketsService,
    @Inject(RoutesService) private readonly routes: RoutesService,
    @Inject(Decoding) private readonly decoding: Decoding,
    @Inject(Calculating) private readonly calculating: Calculating,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  /** A ticket whose piece is the wedge of a material, without a curve, or with the newest one as a proof of it. */
  async ticket(key: string, proof: boolean): Promise<TicketView> {
    const material = await this.materials.get(key);
    const artworkId = await this.picture(material.dotsPerInch);
    const route = wedgeRoute(material, proof && material.curve ? material.curve.points : undefined);
    const ticket = await this.tickets.create({
      ...{
        artworkId,
        piece: `Step wedge, ${material.name}${proof ? ", with its curve" : ""}`,
        customer: "The shop",
      },
      ...{
        pieces: 1,
        output: "laser",
        material: material.name,
        note: "Burn it, photograph it, drop it on the material.",
      },
    });
    await this.routes.save(ticket.routes[0].id, 1, route);
    return this.tickets.get(ticket.id);
  }

  /** The drawing of a wedge, an artwork like any other. */
  private async picture(dotsPerInch: number): Promise<string> {
    const folder = await this.decoding.workFolder();
    try {
      const file = join(folder, "wedge.png");
      const { bytes } = await this.calculating.do("screen", "wedgePicture", { file, dotsPerInch });
      const sha256 = await fingerprintOf(file);
      const name = `step-wedge-${dotsPerInch}.png`;
      return (await this.artworks.add({ path: file, bytes, sha256 }, name)).id;
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  async curves(key: string): Promise<CurveView[]> {
    await this.materials.get(key);
    const rows = await this.database
      .selectFrom("curves")
      .selectAll()
      .where("materialKey", "=", key)
      .orderBy("version", "desc")
      .execute();
    return rows.map(({ version, body, createdAt }) => ({
      ...body,
      version,
      createdAt: createdAt.toISOString(),
    }));
  }

  /** Reads a photograph of a wedge, and keeps the curve. What held becomes the material's limits. */
  async fromPhoto(key: string, artworkId: string): Promise<CurveView> {
    const material = await this.materials.get(key);
    const read = await this.readPhoto(artworkId, material);
    const mm = (dots: number | null) =>
      dots === null ? null : Math.round(mmOfDots(dots, material) * 1000) / 1000;
    const { dot, line, gap } = read.held;
    const held = { dotMm: mm(dot), strokeMm: mm(line), gapMm: mm(gap) };
    return this.keep(material, read.steps, "photograph", held);
  }

  /** Read where strangers' files are decoded: a photograph of many megapixels takes seconds. */
  private async readPhoto(artworkId: string, material: Material): Promise<WedgeReading> {
    const { pixelsSha256 } = await this.artworks.row(artworkId);
    if (!pixelsSha256)
      throw new ProblemException(422, "No wedge read", "A drawing is no photograph of a wedge.");
    const folder = await this.decoding.workFolder();
    try {
      const file = join(folder, "photo.png");
      await pipeline(this.blobs.stream(pixelsSha256), createWriteStream(file));
      return await this.decoding.wedge(file, material.dotsPerInch, material.answer === "burns pale");
    } catch (error) {
      if (error instanceof IntakeError) throw new ProblemException(422, "No wedge read", error.message);
      throw error;
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  }

  /** Readings typed by somebody with an instrument: percent made, percent seen. */
  async fromReadings(key: string, readings: readonly (readonly [number, number])[]): Promise<CurveView> {
    return this.keep(await this.materials.get(key), readReadings(readings), "typed", null);
  }

  private async keep(
    material: Material,
    readings: readonly CurvePoint[],
    from: CurveBody["from"],
    held: CurveBody["held"],
  ): Promise<CurveView> {
    const fitted = this.orRefuse(() => fitResponse(readings));
    if (![...fitted.points.flat(), fitted.errorPercent].every(Number.isFinite))
      throw new ProblemException(422, "No wedge read", "No curve goes through these readings.");
    const body: CurveBody = {
      ...{ points: fitted.points, errorPercent: fitted.errorPercent, mostPercent: fitted.mostPercent },
      readings: readings.map(([made, seen]) => [Math.round(made * 1e4) / 1e4, Math.round(seen * 1e4) / 1e4]),
      ...{ from, held },
    };
    const { personId, tokenId } = doer();
    const version = await this.database.transaction().execute(async (tx) => {
      // One after another: each curve is a version of its own.
      await sql`select key from materials where key = ${material.key} for update`.execute(tx);
      const { rows } = await sql<{ version: number }>`
        insert into curves (material_key, version, body, person_id, token_id)
        select ${material.key}, coalesce(max(version), 0) + 1, ${JSON.stringify(body)}::jsonb,
          ${personId}::bigint, ${tokenId}::bigint
        from curves where material_key = ${material.key} returning version`.execute(tx);
      const limits = Object.fromEntries(Object.entries(held ?? {}).filter(([, v]) => v !== null));
      if (Object.keys(limits).length > 0)
        await sql`
          update materials set body = body || ${JSON.stringify(limits)}::jsonb, version = version + 1
          where key = ${material.key}`.execute(tx);
      return rows[0].version;
    });
    return (await this.curves(material.key)).find((c) => c.version === version)!;
  }

  private orRefuse<T>(act: () => T): T {
    try {
      return act();
    } catch (error) {
      if (error instanceof RangeError) throw new ProblemException(422, "No wedge read", error.message);
      throw error;
    }
  }
}

async function fingerprintOf(file: string): Promise<string> {
  const hash = createHash("sha256");
  for await (const chunk of createReadStream(file) as AsyncIterable<Buffer>) hash.update(chunk);
  return hash.digest("hex");
}
