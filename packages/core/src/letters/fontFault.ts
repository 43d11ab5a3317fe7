/** Tables that every font of outlines has (ISO/IEC 14496-22, 4.3). */
const NEEDED = ["cmap", "head", "hhea", "hmtx", "maxp"] as const;
/** A font has so many tables at most. */
const MOST_TABLES = 64;
/** Bytes that a font may have. */
export const MOST_FONT_BYTES = 16 << 20;

/**
 * What is wrong with the file of a font, in words that go on from its name; null where it is whole. Signature, the list of
 * tables, each table within the file, those that are needed, letters, outlines, units.
 *
 * @see ISO/IEC 14496-22 (Open Font Format), 4 and 5
 */
export function fontFault(bytes: Uint8Array): string | null {
  if (bytes.length > MOST_FONT_BYTES)
    return `has ${bytes.length} bytes; ${MOST_FONT_BYTES} at most are allowed`;
  if (bytes.length < 12) return "is cut off: it has no list of its tables";
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const tag = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  const kind = tag(0);
  if (kind === "wOFF" || kind === "wOF2")
    return "is packed for web pages (WOFF); OTF or TTF is taken: unpack it first";
  if (kind === "ttcf") return "is a collection of several fonts (TTC); OTF or TTF of one font is taken";
  if (kind !== "OTTO" && kind !== "true" && view.getUint32(0) !== 0x00010000)
    return "is no font: OTF or TTF is taken";
  const count = view.getUint16(4);
  if (count === 0 || count > MOST_TABLES)
    return `says that it has ${count} tables; 1 to ${MOST_TABLES} are allowed`;
  if (12 + 16 * count > bytes.length) return "is cut off within the list of its tables";
  const tables = new Map<string, { readonly at: number; readonly length: number }>();
  for (let k = 0; k < count; k++) {
    const entry = 12 + 16 * k;
    const [at, length] = [view.getUint32(entry + 8), view.getUint32(entry + 12)];
    if (at + length > bytes.length)
      return `is cut off: its table ${tag(entry).trim()} ends ${at + length - bytes.length} bytes beyond the file`;
    tables.set(tag(entry), { at, length });
  }
  const missing = NEEDED.filter((name) => !tables.has(name));
  if (missing.length > 0) return `lacks its ${missing.length > 1 ? "tables" : "table"} ${missing.join(", ")}`;
  if (!tables.has("glyf") && !tables.has("CFF ") && !tables.has("CFF2"))
    return "has no outlines: only fonts of outlines can be cut, not those of pictures";
  const head = tables.get("head")!;
  if (head.length < 54) return "is cut off within its table head";
  const units = view.getUint16(head.at + 18);
  if (units < 16 || units > 16384) return `has ${units} units to the em; 16 to 16384 are allowed`;
  const maxp = tables.get("maxp")!;
  if (maxp.length < 6 || view.getUint16(maxp.at + 4) === 0) return "has no letters";
  return null;
}

/** What a font calls itself (its table name, entries 4, 1 and 6); null where it says nothing. */
export function fontName(bytes: Uint8Array): string | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let k = 0; k < view.getUint16(4); k++) {
    const entry = 12 + 16 * k;
    if (String.fromCharCode(...bytes.subarray(entry, entry + 4)) !== "name") continue;
    return nameIn(bytes.subarray(view.getUint32(entry + 8)).subarray(0, view.getUint32(entry + 12)));
  }
  return null;
}

function nameIn(table: Uint8Array): string | null {
  if (table.length < 6) return null;
  const view = new DataView(table.buffer, table.byteOffset, table.byteLength);
  const [count, strings] = [view.getUint16(2), view.getUint16(4)];
  for (const wanted of [4, 1, 6])
    for (let k = 0; k < count && 18 + 12 * k <= table.length; k++) {
      const at = 6 + 12 * k;
      if (view.getUint16(at + 6) !== wanted) continue;
      const from = strings + view.getUint16(at + 10);
      const bytes = table.subarray(from, from + view.getUint16(at + 8));
      // Platform 1 is of one byte a letter, the others of two.
      const step = view.getUint16(at) === 1 ? 1 : 2;
      let name = "";
      for (let b = step - 1; b < bytes.length; b += step)
        name += String.fromCharCode(step === 2 ? (bytes[b - 1] << 8) | bytes[b] : bytes[b]);
      const plain = name.replace(/[\p{C}]/gu, "").trim();
      if (plain) return plain.slice(0, 80);
    }
  return null;
}
