import { PDFArray, PDFDict, PDFDocument, PDFHexString, PDFName, PDFString } from "pdf-lib";

/** Steps by which a piece is parted from its sheet. @see ISO 19593-1:2018, table 2, structural processing steps */
const CUTTING = ["Cutting", "PartialCutting", "CuttingCreasing", "PartialCuttingCreasing"];

/**
 * Layers of a document that it says are cut along, by their names. What cannot be read has none.
 * @see ISO 19593-1:2018, 5.2: an optional content group with GTS_Metadata; ISO 32000-2, 8.11.2
 */
export async function cuttingLayers(bytes: Uint8Array): Promise<ReadonlySet<string>> {
  const names = new Set<string>();
  try {
    const pdf = await PDFDocument.load(bytes, { ignoreEncryption: true, updateMetadata: false });
    const dictionary = (of: PDFDict, key: string) => of.lookupMaybe(PDFName.of(key), PDFDict);
    const layers = dictionary(pdf.catalog, "OCProperties")?.lookupMaybe(PDFName.of("OCGs"), PDFArray);
    for (let k = 0; k < Math.min(layers?.size() ?? 0, MOST_LAYERS); k++) {
      const layer = layers!.lookupMaybe(k, PDFDict);
      const said = layer && dictionary(layer, "GTS_Metadata");
      const step = said?.lookupMaybe(PDFName.of("GTS_ProcStepsType"), PDFName)?.decodeText();
      const name = layer?.lookup(PDFName.of("Name"));
      if (!step || !CUTTING.includes(step)) continue;
      if (name instanceof PDFString || name instanceof PDFHexString) names.add(name.decodeText());
    }
  } catch {
    // The other reader is told of what is wrong with the file.
  }
  return names;
}

const MOST_LAYERS = 1000;
