import { type CurveBody, type CurveView, type TicketView } from "@hardline/contract";
import {
  drawWedge,
  fitResponse,
  finish,
  mmOfDots,
  readWedge,
  WedgeError,
  wedgeRoute,
  writeGrayPng,
  type CurvePoint,
  type Material,
} from "@hardline/core";
import { Inject, Injectable } from "@nestjs/common";
import { sql } from "kysely";
import { ArtworksService } from "../artworks/artworks.service";
import { Database } from "../database/database.module";
import { ProblemException } from "../http/problems";
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
  ) {}

  /** A ticket whose piece is the wedge of a material, without a curve, or with the newest one as a proof of it. */
  async ticket(key: string, proof: boolean): Promise<TicketView> {
    const material = await this.materials.get(key);
    const png = finish(writeGrayPng(drawWedge(material.dotsPerInch), material.dotsPerInch));
    const { id: artworkId } = await this.artworks.addBytes(png, `step-wedge-${material.dotsPerInch}.png`);
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

  async curves(key: string): Promise<CurveView[]> {
    await this.materials.get(key);
    const rows = await this.database
      .selectFrom("curves")
      .selectAll()
      .where("material_key", "=", key)
      .orderBy("version", "desc")
      .execute();
    return rows.map(({ version, body, created_at }) => ({
      ...body,
      version,
      createdAt: created_at.toISOString(),
    }));
  }

  /** Reads a photograph of a wedge, and keeps the curve. What held becomes the material's limits. */
  async fromPhoto(key: string, artworkId: string): Promise<CurveView> {
    const material = await this.materials.get(key);
    const photo = await (await this.artworks.source(artworkId)).pixels();
    const read = this.orRefuse(() =>
      readWedge(photo, material.dotsPerInch, material.answer === "burns pale"),
    );
    const mm = (dots: number | null) =>
      dots === null ? null : Math.round(mmOfDots(dots, material) * 1000) / 1000;
    const { dot, line, gap } = read.held;
    const held = { dotMm: mm(dot), strokeMm: mm(line), gapMm: mm(gap) };
    return this.keep(material, read.steps, "photograph", held);
  }

  /** Readings typed by somebody with an instrument: percent made, percent seen. */
  async fromReadings(key: string, readings: readonly (readonly [number, number])[]): Promise<CurveView> {
    const material = await this.materials.get(key);
    const isShare = (v: unknown): boolean => typeof v === "number" && v >= 0 && v <= 100;
    const wrong = readings.find((r) => !Array.isArray(r) || r.length !== 2 || !r.every(isShare));
    if (wrong)
      throw new ProblemException(
        400,
        "Not valid",
        `readings has ${JSON.stringify(wrong)}; allowed: percent made and percent seen, 0 to 100 each`,
      );
    const given = readings
      .map(([made, seen]): CurvePoint => [made / 100, seen / 100])
      .sort((a, b) => a[0] - b[0]);
    const twice = given.find(([made], k) => k > 0 && made === given[k - 1][0]);
    if (twice)
      throw new ProblemException(400, "Not valid", `readings has ${100 * twice[0]} % twice; each step once`);
    return this.keep(material, given, "typed", null);
  }

  private async keep(
    material: Material,
    readings: readonly CurvePoint[],
    from: CurveBody["from"],
    held: CurveBody["held"],
  ): Promise<CurveView> {
    const fitted = this.orRefuse(() => fitResponse(readings));
    const body: CurveBody = {
      ...{ points: fitted.points, errorPercent: fitted.errorPercent, mostPercent: fitted.mostPercent },
      readings: readings.map(([made, seen]) => [Math.round(made * 1e4) / 1e4, Math.round(seen * 1e4) / 1e4]),
      ...{ from, held },
    };
    await this.database.transaction().execute(async (tx) => {
      await sql`
        insert into curves (material_key, version, body)
        select ${material.key}, coalesce(max(version), 0) + 1, ${JSON.stringify(body)}::jsonb
        from curves where material_key = ${material.key}`.execute(tx);
      const limits = Object.fromEntries(Object.entries(held ?? {}).filter(([, v]) => v !== null));
      if (Object.keys(limits).length > 0)
        await sql`
          update materials set body = body || ${JSON.stringify(limits)}::jsonb, version = version + 1
          where key = ${material.key}`.execute(tx);
    });
    return (await this.curves(material.key))[0];
  }

  private orRefuse<T>(act: () => T): T {
    try {
      return act();
    } catch (error) {
      if (error instanceof WedgeError || error instanceof RangeError)
        throw new ProblemException(422, "No wedge read", error.message);
      throw error;
    }
  }
}
