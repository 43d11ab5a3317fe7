import { degrees, PDFDocument, rgb } from "pdf-lib";

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

  const label = pdf.addPage([pt(60), pt(40)]);
  label.setRotation(degrees(90));
  label.drawEllipse({ x: pt(20), y: pt(20), xScale: pt(15), yScale: pt(15), color: rgb(0.1, 0.1, 0.1) });
  label.drawRectangle({ x: pt(40), y: pt(10), width: pt(15), height: pt(6), color: rgb(0.1, 0.1, 0.1) });
  return Buffer.from(await pdf.save());
}
