import { strToU8 } from "fflate";
import { bledUnder } from "../../clear/bleed";
import { encodeGroup4 } from "../../format/fax";
import { writeBitsPdf } from "../../format/pdf";
import { writeBitsPng, writeGrayPng, writeRgbaPng } from "../../format/png";
import { writeBitsTiff } from "../../format/tiff";
import { finish as finishWork } from "../../maths/work";
import { fingerprint } from "../../raster/fingerprint";
import { newGray, type Gray } from "../../raster/types";
import { type Toned } from "../../route/art";
import { type Route } from "../../route/route";
import { type StageInspection, type StageResult } from "../../route/runner";

export interface DeliveredFile {
  readonly name: string;
  readonly mediaType: string;
  readonly bytes: Uint8Array;
}

/** Every file that the stages of a route give, readings last. */
export async function filesOf(
  route: Route,
  results: readonly StageResult[],
  inspections: readonly StageInspection[],
  pause: () => Promise<void> = async () => {},
): Promise<DeliveredFile[]> {
  const files: DeliveredFile[] = [];
  const { art } = results[results.length - 1];
  const dotsPerInch = art.finish?.dotsPerInch ?? 254;
  const afterClear = results.find((r) => r.stage === "clear");
  if (afterClear) {
    const clean = finishWork(bledUnder(afterClear.art.colour));
    await pause();
    const bytes = writeRgbaPng(clean, dotsPerInch);
    files.push({ name: "cleared.png", mediaType: "image/png", bytes });
    await pause();
  }
  if (route.stages.some((s) => s.stage === "tone") && art.toned) {
    files.push({
      name: "tone.png",
      mediaType: "image/png",
      bytes: writeGrayPng(onWhite(art.toned), dotsPerInch),
    });
    await pause();
  }
  if (art.dots && art.finish) {
    const { bits } = art.dots;
    files.push({ name: "bitmap.png", mediaType: "image/png", bytes: writeBitsPng(bits, dotsPerInch) });
    await pause();
    const group4 = finishWork(encodeGroup4(bits));
    await pause();
    files.push({
      name: "bitmap.tif",
      mediaType: "image/tiff",
      bytes: writeBitsTiff(bits, group4, dotsPerInch),
    });
    const { widthMm, heightMm } = art.finish;
    files.push({
      name: "bitmap.pdf",
      mediaType: "application/pdf",
      bytes: await writeBitsPdf(bits, group4, widthMm, heightMm),
    });
  }
  const readings = `${JSON.stringify(readingsOf(results, inspections, files), null, 2)}\n`;
  files.push({ name: "readings.json", mediaType: "application/json", bytes: strToU8(readings) });
  return files;
}

function readingsOf(
  results: readonly StageResult[],
  inspections: readonly StageInspection[],
  files: readonly DeliveredFile[],
) {
  const { facts, finish } = results[results.length - 1].art;
  return {
    artwork: { width: facts.width, height: facts.height, sha256: facts.sha256 },
    finish,
    stages: results.map(({ stage, key, ms }, i) => ({
      stage,
      key,
      ms: Math.round(ms),
      ...inspections[i].readings,
    })),
    checks: inspections.flatMap((i) => i.checks),
    files: files.map(({ name, bytes }) => ({ name, bytes: bytes.length, sha256: fingerprint(bytes) })),
  };
}

/** Grey as it looks on white where the art fades out or ends. */
function onWhite({ gray, cover }: Toned): Gray {
  if (!cover) return gray;
  const out = newGray(gray.width, gray.height);
  for (let i = 0; i < out.data.length; i++)
    out.data[i] = 255 - Math.round(((255 - gray.data[i]) * cover[i]) / 255);
  return out;
}
