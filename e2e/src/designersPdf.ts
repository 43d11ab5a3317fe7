import {
  degrees,
  type PDFDict,
  PDFDocument,
  PDFName,
  PDFOperator,
  PDFOperatorNames,
  PDFString,
  rgb,
  type PDFPage,
} from "pdf-lib";

const pt = (mm: number): number => (mm / 25.4) * 72;

/**
 * What a designer hands over: a letter to the shop; a card 85 x 55 mm with 3 mm of bleed and marks beside it; a round label,
 * the page turned.
 */
export async function designersPdf(): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  const letter = pdf.addPage([pt(210), pt(297)]);
  for (let line = 0; line < 24; line++)
    letter.drawRectangle({
      x: pt(25),
      y: pt(250 - 8 * line),
      width: pt(120 + ((line * 37) % 40)),
      height: pt(2),
      color: rgb(0.2, 0.2, 0.2),
    });

  const card = pdf.addPage([pt(105), pt(75)]);
  card.setBleedBox(pt(7), pt(7), pt(91), pt(61));
  card.setTrimBox(pt(10), pt(10), pt(85), pt(55));
  card.drawRectangle({ x: pt(7), y: pt(7), width: pt(91), height: pt(61), color: rgb(0.95, 0.84, 0.3) });
  card.drawEllipse({ x: pt(52.5), y: pt(37.5), xScale: pt(20), yScale: pt(14), color: rgb(0.1, 0.2, 0.45) });
  for (const x of [10, 95])
    for (const y of [2, 73])
      card.drawLine({ start: { x: pt(x), y: pt(y - 2) }, end: { x: pt(x), y: pt(y + 2) }, thickness: 0.5 });

  cutLayer(pdf, card, () =>
    card.drawSvgPath(roundedCard(), {
      ...{ x: pt(10), y: pt(65), borderColor: rgb(0.9, 0, 0.6), borderWidth: 0.25 },
    }),
  );

  const label = pdf.addPage([pt(60), pt(40)]);
  label.setRotation(degrees(90));
  label.drawEllipse({ x: pt(20), y: pt(20), xScale: pt(15), yScale: pt(15), color: rgb(0.1, 0.1, 0.1) });
  label.drawRectangle({ x: pt(40), y: pt(10), width: pt(15), height: pt(6), color: rgb(0.1, 0.1, 0.1) });
  return Buffer.from(await pdf.save());
}

/** Radius of the card's corners, in mm. */
export const CARD_CORNER = 4;

/** The card's outline in points, y downwards, its corners round. */
function roundedCard(): string {
  const [w, h, r] = [pt(85), pt(55), pt(CARD_CORNER)];
  const k = 0.5522847 * r; // a quarter circle's handle
  return `M${r} 0H${w - r}c${k} 0 ${r} ${r - k} ${r} ${r}V${h - r}c0 ${k} ${k - r} ${r} ${-r} ${r}H${r}c${-k} 0 ${-r} ${k - r} ${-r} ${-r}V${r}c0 ${-k} ${r - k} ${-r} ${r} ${-r}Z`;
}

/** What is drawn on a layer that says by ISO 19593-1 that it is cut along. */
function cutLayer(pdf: PDFDocument, page: PDFPage, draw: () => void): void {
  const { context } = pdf;
  const name = PDFString.of("Card outline");
  const steps = { GTS_ProcStepsGroup: "Structural", GTS_ProcStepsType: "Cutting" };
  const layer = context.register(context.obj({ Type: "OCG", Name: name, GTS_Metadata: steps }));
  pdf.catalog.set(PDFName.of("OCProperties"), context.obj({ OCGs: [layer], D: { Order: [layer] } }));
  const { Resources } = page.node.normalizedEntries();
  (Resources as PDFDict).set(PDFName.of("Properties"), context.obj({ Cut: layer }));
  const { BeginMarkedContentSequence: begin, EndMarkedContent: end } = PDFOperatorNames;
  page.pushOperators(PDFOperator.of(begin, [PDFName.of("OC"), PDFName.of("Cut")]));
  draw();
  page.pushOperators(PDFOperator.of(end));
}
