import { PDFDocument } from "pdf-lib";
import { deflateSync } from "node:zlib";
import { designersPdf } from "../designersPdf";

/** Sound PDFs: as designers' programs write them, plain enough to be read, and with a picture alone on its page. */
export async function soundPdfs(picture: Buffer): Promise<Record<string, Buffer>> {
  const packed = await designersPdf();
  const plain = await (await PDFDocument.load(packed)).save({ useObjectStreams: false });
  const scan = await PDFDocument.create();
  const page = scan.addPage([160, 120]);
  page.drawImage(await scan.embedJpg(picture), { x: 0, y: 0, width: 160, height: 120 });
  return {
    "packed.pdf": packed,
    "plain.pdf": Buffer.from(plain),
    "scan.pdf": Buffer.from(await scan.save()),
  };
}

type Parts = Readonly<Record<number, string | readonly [dictionary: string, stream: Uint8Array]>>;

const CATALOG = "/Type /Catalog /Pages 2 0 R";
const [ONE_PAGE, PAGE] = [
  "/Type /Pages /Kids [3 0 R] /Count 1",
  "/Type /Page /Parent 2 0 R /MediaBox [0 0 72 36]",
];
const packed = (text: string | Buffer): Buffer => deflateSync(text, { level: 9 });

/** A PDF of objects by their numbers, without a table of contents: whoever reads it has to look for them. */
function pdf(parts: Parts, trailer = ""): Buffer {
  const objects = Object.entries(parts).flatMap(([number, part]) => {
    const [dictionary, stream] = typeof part === "string" ? [part, null] : part;
    const head = `${number} 0 obj\n<< ${dictionary}${stream ? ` /Length ${stream.length}` : ""} >>\n`;
    return stream ? [head, "stream\n", stream, "\nendstream\nendobj\n"] : [head, "endobj\n"];
  });
  const end = `trailer\n<< /Root 1 0 R /Size 99999 ${trailer} >>\n%%EOF\n`;
  return Buffer.concat(
    ["%PDF-1.7\n", ...objects, end].map((p) => (typeof p === "string" ? Buffer.from(p, "latin1") : p)),
  );
}

/** A page with this content. */
const page = (content: string | Buffer, more = "", others: Parts = {}): Buffer =>
  pdf({
    ...{ 1: CATALOG, 2: ONE_PAGE, 3: `${PAGE} /Contents 4 0 R ${more}` },
    4: ["/Filter /FlateDecode", packed(content)],
    ...others,
  });

/** PDFs that ask for more time, memory or depth than anybody has. */
export function hostilePdfs(): Record<string, Buffer> {
  const zeros = Buffer.alloc(1 << 28);
  const many = (count: number) => `/Kids [${"3 0 R ".repeat(count)}] /Count ${count} /Type /Pages`;
  const form = (next: number): readonly [string, Uint8Array] => [
    `/Type /XObject /Subtype /Form /BBox [0 0 72 36] /Resources << /XObject << /F ${next} 0 R >> >>`,
    Buffer.from("/F Do ".repeat(12)),
  ];
  const fan = Object.fromEntries(Array.from({ length: 12 }, (_, k) => [10 + k, form(11 + k)]));
  const kids = Object.fromEntries(
    Array.from({ length: 20000 }, (_, k) => [100 + k, `/Type /Pages /Kids [${101 + k} 0 R] /Count 1`]),
  );
  const image = (side: number, filter: string, data: Buffer): Parts => ({
    9: [
      `/Type /XObject /Subtype /Image /Width ${side} /Height ${side} /BitsPerComponent 8 /ColorSpace /DeviceGray ${filter}`,
      data,
    ],
  });
  const NAMED = "/Resources << /XObject << /F 10 0 R /I 9 0 R >> /Pattern << /P 10 0 R >> >>";
  return {
    "content that unpacks without end.pdf": page(zeros),
    "packed twice.pdf": pdf({
      ...{ 1: CATALOG, 2: ONE_PAGE, 3: `${PAGE} /Contents 4 0 R` },
      4: ["/Filter [/FlateDecode /FlateDecode]", packed(packed(zeros))],
    }),
    "5001 pages.pdf": pdf({ 1: CATALOG, 2: many(5001), 3: PAGE }),
    "5000 pages.pdf": pdf({ 1: CATALOG, 2: many(5000), 3: PAGE }),
    "forms that call each other.pdf": page("/F Do", NAMED, { 10: form(10) }),
    "forms twelve deep and twelve wide.pdf": page("/F Do", NAMED, fan),
    "a tree of pages 20000 deep.pdf": pdf({
      1: CATALOG,
      2: "/Type /Pages /Kids [100 0 R] /Count 1",
      ...kids,
      20100: PAGE,
    }),
    "a page that is its own father.pdf": pdf({ 1: CATALOG, 2: "/Type /Pages /Kids [2 0 R] /Count 9" }),
    "a million saves.pdf": page("q ".repeat(1e6)),
    "a million strokes.pdf": page("0 0 m 72 36 l S ".repeat(1e6)),
    "brackets that never close.pdf": page("[".repeat(500000)),
    "a picture larger than it is.pdf": page(
      "72 0 0 36 0 0 cm /I Do",
      NAMED,
      image(60000, "/Filter /FlateDecode", packed("x")),
    ),
    "a picture of 900 million.pdf": page(
      "72 0 0 36 0 0 cm /I Do",
      NAMED,
      image(30000, "/Filter /FlateDecode", packed(zeros)),
    ),
    "a pattern of itself.pdf": page("/Pattern cs /P scn 0 0 72 36 re f", NAMED, {
      10: [
        `/Type /Pattern /PatternType 1 /PaintType 1 /TilingType 1 /BBox [0 0 1 1] /XStep 0.0001 /YStep 0.0001 ${NAMED}`,
        Buffer.from("/Pattern cs /P scn 0 0 1 1 re f"),
      ],
    }),
    "a size without end.pdf": page("0 0 9 9 re f", "/MediaBox [-1e30 -1e30 1e30 1e30]"),
    "a size of nothing.pdf": page("0 0 9 9 re f", "/MediaBox [0 0 0 0]"),
    "scripts.pdf": pdf({
      1: `${CATALOG} /OpenAction << /S /JavaScript /JS (while\\(1\\);) >>`,
      2: ONE_PAGE,
      3: PAGE,
    }),
    "a file outside.pdf": page("/F Do", NAMED, {
      10: [
        `/Type /XObject /Subtype /Form /BBox [0 0 9 9] /F << /Type /Filespec /F (/etc/passwd) >>`,
        Buffer.from(""),
      ],
    }),
  };
}
