import { type PieceView } from "@hardline/contract";
import { writeRgbaPng } from "@hardline/core/format/png";
import { mmOfDots } from "@hardline/core/maths/units";
import { drive } from "@hardline/core/maths/work";
import { simplified } from "@hardline/core/polygon/clip";
import { newRgba, type Rgba } from "@hardline/core/raster/types";
import { type SheetPiece } from "@hardline/core/sheet/piece";
import { Inject, Injectable } from "@nestjs/common";
import { setImmediate as nextTurn } from "node:timers/promises";
import sharp from "sharp";
import { BlobStore } from "../blobs/blob.store";
import { type Made, type RenderRow } from "../renders/renders.service";
import { type Maker, type Making } from "./maker";
import { Pieces } from "./pieces";

/** Pictures of pieces on a sheet are no larger than this, in pixels. */
const LARGEST = 480;
/** Outlines are told within this, in mm. */
const WITHIN_MM = 0.01;

/** A route as a piece for sheets: its outline, and what it looks like. */
@Injectable()
export class PieceMaker implements Maker {
  constructor(
    @Inject(Pieces) private readonly pieces: Pieces,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  async make(work: RenderRow, { runner, report, signal }: Making): Promise<Made> {
    const { bleedMm } = work.wish as { bleedMm: number };
    const piece = await this.pieces.at(runner, String(work.routeId), work.revision!, {
      ...{ bleedMm, signal },
      progress: (share, stage) => report(0.9 * share, stage),
    });
    const { picture, xMm, yMm, widthMm, heightMm } = lookOf(piece);
    const png = await drive(writeRgbaPng(picture, 72), { pause: nextTurn });
    const small = await sharp(png, { limitInputPixels: false })
      .resize({ width: LARGEST, height: LARGEST, fit: "inside", withoutEnlargement: true })
      .png()
      .toBuffer();
    const sha256 = await this.blobs.put(small, "image/png");
    const outcome: Omit<PieceView, "pictureUrl"> = {
      name: piece.name,
      outline: Array.from(simplified([piece.outline], WITHIN_MM)[0] ?? piece.outline),
      box: piece.box,
      dotsPerInch: piece.bitmap?.dotsPerInch ?? null,
      printed: piece.print !== null,
      picture: { xMm, yMm, widthMm, heightMm },
    };
    return { files: [{ name: "piece.png", mediaType: "image/png", bytes: small.length, sha256 }], outcome };
  }
}

/** What a piece looks like: its print, or its dots in black on nothing. */
function lookOf({ print, bitmap, box }: SheetPiece) {
  if (print) return print;
  if (!bitmap)
    return { picture: newRgba(1, 1), xMm: box.x, yMm: box.y, widthMm: box.width, heightMm: box.height };
  const { bits, dotsPerInch } = bitmap;
  const picture: Rgba = newRgba(bits.width, bits.height);
  for (let y = 0; y < bits.height; y++)
    for (let x = 0; x < bits.width; x++)
      if ((bits.data[y * bits.stride + (x >> 3)] >> (7 - (x & 7))) & 1)
        picture.data[4 * (y * bits.width + x) + 3] = 255;
  const [widthMm, heightMm] = [mmOfDots(bits.width, { dotsPerInch }), mmOfDots(bits.height, { dotsPerInch })];
  return { picture, xMm: 0, yMm: 0, widthMm, heightMm };
}
