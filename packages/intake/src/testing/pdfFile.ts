/** A page of a PDF that is made by hand. */
export interface PdfPage {
  /** Operators of its content. */
  readonly content: string;
  /** More of its dictionary: boxes, rotation, resources. */
  readonly more?: string;
}

interface PdfParts {
  readonly pages: readonly PdfPage[];
  /** Objects that pages name, numbered from 100 on; each with its stream's bytes, where it is one. */
  readonly objects?: readonly (readonly [dictionary: string, stream?: Uint8Array])[];
  readonly catalog?: string;
  readonly trailer?: string;
}

/** A PDF from its parts, to the letter of its layout. @see ISO 32000-2, 7.5 */
export function pdfOf({ pages, objects = [], catalog = "", trailer = "" }: PdfParts): Buffer {
  const numbered: [number, Buffer][] = [];
  const add = (number: number, dictionary: string, stream?: Uint8Array): void => {
    const body = stream
      ? [`<< ${dictionary} /Length ${stream.length} >>\nstream\n`, stream, "\nendstream"]
      : [`<< ${dictionary} >>`];
    numbered.push([
      number,
      Buffer.concat(
        [`${number} 0 obj\n`, ...body, "\nendobj\n"].map((b) => Buffer.from(b as string, "latin1")),
      ),
    ]);
  };
  add(1, `/Type /Catalog /Pages 2 0 R ${catalog}`);
  const kids = pages.map((_, k) => `${10 + 2 * k} 0 R`).join(" ");
  add(2, `/Type /Pages /Kids [${kids}] /Count ${pages.length} /MediaBox [0 0 72 36]`);
  pages.forEach(({ content, more = "" }, k) => {
    add(10 + 2 * k, `/Type /Page /Parent 2 0 R /Contents ${11 + 2 * k} 0 R ${more}`);
    add(11 + 2 * k, "", Buffer.from(content, "latin1"));
  });
  objects.forEach(([dictionary, stream], k) => add(100 + k, dictionary, stream));
  const parts: Buffer[] = [Buffer.from("%PDF-1.7\n")];
  let at = parts[0].length;
  let table = "";
  for (const [number, bytes] of numbered) {
    table += `${number} 1\n${String(at).padStart(10, "0")} 00000 n \n`;
    parts.push(bytes);
    at += bytes.length;
  }
  const end = `xref\n0 1\n0000000000 65535 f \n${table}trailer\n<< /Size 10000 /Root 1 0 R ${trailer} >>\nstartxref\n${at}\n%%EOF\n`;
  return Buffer.concat([...parts, Buffer.from(end)]);
}
