import { drawProof, PROOF_DPI } from "../../film/drawProof";
import { writeProofPdf } from "../../film/proofPdf";
import { layProof, type ProofSheet, type ProofWay } from "../../film/proofSheet";
import { packedPlanes } from "../../format/pack";
import { writeRgbaPng } from "../../format/png";
import { type Doing } from "../../maths/work";
import { BACKGROUND } from "../../mockUp/ground";
import { placeWords } from "../../mockUp/place";
import { type MockUp } from "../../mockUp/result";
import { seenMockUp } from "../../mockUp/seenMockUp";
import { sceneOf, stageOf } from "../../mockUp/stageOf";
import { thingOf } from "../../mockUp/things";
import { type Rgba } from "../../raster/types";
import { wayWord, type Colourway } from "../../recolour/colourway";
import { type DeliveredFile } from "../stage";
import { lookOf } from "./look";
import { type MockUpSettings } from "./settings";

/** Pictures on one page of a contact sheet. */
const A_PAGE = 20;
/** Longest side of a picture on it, in pixels. */
const SHEET_PICTURE = 800;

/** The mock-up and each colourway of it, and all of what the customer may choose from on one sheet. */
export async function* mockUpFiles(
  result: MockUp,
  settings: MockUpSettings,
  doing: Doing,
  job: string,
  ways: readonly Colourway[],
): AsyncIterable<DeliveredFile> {
  const { finish } = result;
  const scene = sceneOf(result, null);
  if (!scene) return;
  const part = { x: 0, y: 0, width: finish.widthPx, height: finish.heightPx };
  for (const way of [null, ...ways]) {
    const picture = await doing(seenMockUp(result, part, finish.widthPx, finish.heightPx, way));
    const word = way ? `-${wayWord(way.name)}` : "";
    const bytes = await doing(writeRgbaPng(picture, finish.dotsPerInch));
    yield { name: `mockup${word}.png`, mediaType: "image/png", bytes };
    const sheet = layProof({
      title: job,
      size: scene.prints.map(placeWords).join("; "),
      aspect: picture.width / picture.height,
      ways: [{ name: cellName(settings.thing, settings.size, way), garment: BACKGROUND, inks: [] }],
    });
    yield {
      name: `mockup${word}.pdf`,
      mediaType: "application/pdf",
      bytes: await pdfOf(sheet, [picture], doing),
    };
  }
  yield* contactSheets(result, settings, doing, job, ways);
}

async function pdfOf(sheet: ProofSheet, pictures: readonly Rgba[], doing: Doing): Promise<Uint8Array> {
  const packed = [];
  for (const picture of pictures) packed.push({ picture, ...(await doing(packedPlanes(picture))) });
  return writeProofPdf(sheet, packed);
}

interface Cell {
  readonly of: MockUp;
  readonly way: Colourway | null;
  readonly name: string;
}

/** Every colourway times every thing times every size that is wished. */
function cellsOf(result: MockUp, settings: MockUpSettings, ways: readonly Colourway[]): Cell[] {
  const { thing, size, sheet } = settings;
  const things = [thing, ...sheet.things.filter((t) => t !== thing)];
  return things.flatMap((each) => {
    const own = typeof each === "string" ? thingOf(each).sizes : [];
    const wanted = sheet.sizes.filter((s) => own.includes(s));
    return (wanted.length > 0 ? wanted : [size]).flatMap((s) =>
      [null, ...ways].map((way): Cell => {
        const of =
          typeof each === "string"
            ? {
                ...result,
                thing: { kind: "drawn", id: each, size: s } as const,
                ...lookOf(result.art, { ...settings, thing: each }),
              }
            : result;
        return { of, way, name: cellName(each, s, way) };
      }),
    );
  });
}

function cellName(thing: MockUpSettings["thing"], size: string, way: Colourway | null): string {
  const title = typeof thing === "string" ? thingOf(thing).title : thing.name;
  const sized = typeof thing === "string" && thingOf(thing).sizes.includes(size) ? [size] : [];
  return [way?.name ?? "As it is", title, ...sized].join(", ");
}

async function* contactSheets(
  result: MockUp,
  settings: MockUpSettings,
  doing: Doing,
  job: string,
  ways: readonly Colourway[],
): AsyncIterable<DeliveredFile> {
  const cells = cellsOf(result, settings, ways);
  if (cells.length < 2) return;
  const pages = Math.ceil(cells.length / A_PAGE);
  for (let page = 0; page < pages; page++) {
    const pictures: Rgba[] = [];
    const shown: ProofWay[] = [];
    for (const { of, way, name } of cells.slice(page * A_PAGE, (page + 1) * A_PAGE)) {
      const stage = stageOf(of.thing);
      if (!stage) continue;
      const by = SHEET_PICTURE / Math.max(stage.width, stage.height);
      const [width, height] = [stage.width, stage.height].map((side) => Math.max(1, Math.round(side * by)));
      const finish = { ...of.finish, widthPx: width, heightPx: height };
      pictures.push(
        await doing(seenMockUp({ ...of, finish }, { x: 0, y: 0, width, height }, width, height, way)),
      );
      shown.push({ name, garment: BACKGROUND, inks: [], aspect: width / height });
    }
    const words = `${cells.length} to choose from${pages > 1 ? `, page ${page + 1} of ${pages}` : ""}`;
    const sheet = layProof({ title: job, size: words, aspect: 1, ways: shown });
    const name = `contact-sheet${page > 0 ? `-${page + 1}` : ""}`;
    const drawn = await doing(drawProof(sheet, pictures));
    yield { name: `${name}.png`, mediaType: "image/png", bytes: await doing(writeRgbaPng(drawn, PROOF_DPI)) };
    yield { name: `${name}.pdf`, mediaType: "application/pdf", bytes: await pdfOf(sheet, pictures, doing) };
  }
}
