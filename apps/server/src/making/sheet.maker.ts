import { drive } from "@hardline/core/maths/work";
import { sheetsOf } from "@hardline/core/sheet/arrange";
import { sheetFiles } from "@hardline/core/sheet/files";
import { type SheetPiece } from "@hardline/core/sheet/piece";
import { Inject, Injectable } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import { BlobStore } from "../blobs/blob.store";
import { type StoredFile } from "../database/schema";
import { SheetsService } from "../sheets/sheets.service";
import { type Made, type RenderRow } from "../renders/renders.service";
import { type Maker, type Making } from "./maker";
import { Pieces } from "./pieces";

/** The files of a sheet as it is arranged. */
@Injectable()
export class SheetMaker implements Maker {
  constructor(
    @Inject(Pieces) private readonly pieces: Pieces,
    @Inject(SheetsService) private readonly sheets: SheetsService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async make(work: RenderRow, { runner, report, signal }: Making): Promise<Made> {
    const { sheetId } = work.wish as { sheetId: string };
    const { id, name, body, placings, revisions, version } = await this.sheets.get(sheetId);
    const pieces: SheetPiece[] = [];
    for (const { routeId } of body.pieces)
      pieces.push(
        await this.pieces.at(runner, routeId, revisions[routeId], {
          ...{ bleedMm: body.bleedMm, signal },
          progress: (share, stage) => report((0.6 * (pieces.length + share)) / body.pieces.length, stage),
        }),
      );
    const counts = body.pieces.map((p) => p.count);
    const { reach, readsMarks } = await this.sheets.machineOf(body);
    const arranged = sheetsOf(name, pieces, counts, body, { placings }, { reach, readsMarks });
    const files: StoredFile[] = [];
    const stem = `sheet-${id}v${version}`;
    for await (const file of sheetFiles(arranged, (work_) => drive(work_, { pause: nextTurn, signal }))) {
      report(0.8, file.name);
      const sha256 = await this.blobs.put(file.bytes, file.mediaType);
      const { mediaType, bytes } = file;
      files.push({ name: `${stem}-${file.name}`, mediaType, bytes: bytes.length, sha256 });
    }
    return { files };
  }
}
