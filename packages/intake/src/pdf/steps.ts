import { PDFArray, PDFDict, PDFDocument, PDFHexString, PDFName, PDFString, type PDFObject } from "pdf-lib";

/** Steps by which a piece is parted from its sheet. @see ISO 19593-1:2018, table 2, structural processing steps */
const CUTTING = ["Cutting", "PartialCutting", "CuttingCreasing", "PartialCuttingCreasing"];
const MOST_LAYERS = 1000;

/** What a document says of a layer. */
export interface SaidOfLayer {
  readonly shown: boolean;
  readonly cut: boolean;
}

/**
 * What a document says of its layers, by their names. What cannot be read says nothing.
 * @see ISO 32000-2, 8.11.2 and 8.11.4.3 (optional content, and whether it is shown); ISO 19593-1:2018, 5.2
 */
export async function saidOfLayers(bytes: Uint8Array): Promise<ReadonlyMap<string, SaidOfLayer>> {
  const said = new Map<string, SaidOfLayer>();
  try {
    const pdf = await PDFDocument.load(bytes, { ignoreEncryption: true, updateMetadata: false });
    const dictionary = (of: PDFDict | undefined, key: string) => of?.lookupMaybe(PDFName.of(key), PDFDict);
    const list = (of: PDFDict | undefined, key: string) => of?.lookupMaybe(PDFName.of(key), PDFArray);
    const content = dictionary(pdf.catalog, "OCProperties");
    const usual = dictionary(content, "D");
    const layers = list(content, "OCGs");
    const offAtFirst = usual?.lookupMaybe(PDFName.of("BaseState"), PDFName)?.decodeText() === "OFF";
    const [on, off] = ["ON", "OFF"].map((key) => new Set<PDFObject>(list(usual, key)?.asArray() ?? []));
    for (let k = 0; k < Math.min(layers?.size() ?? 0, MOST_LAYERS); k++) {
      const layer = layers!.lookupMaybe(k, PDFDict);
      const name = layer?.lookup(PDFName.of("Name"));
      if (!(name instanceof PDFString || name instanceof PDFHexString)) continue;
      const step = dictionary(layer, "GTS_Metadata")
        ?.lookupMaybe(PDFName.of("GTS_ProcStepsType"), PDFName)
        ?.decodeText();
      const own = layers!.get(k);
      const shown = offAtFirst ? on.has(own) : !off.has(own);
      said.set(name.decodeText(), { shown, cut: step !== undefined && CUTTING.includes(step) });
    }
  } catch {
    // The other reader is told of what is wrong with the file.
  }
  return said;
}
