import { type Page } from "puppeteer-core";

/** Drops a file onto the page, as a hand would. */
export async function drop(page: Page, bytes: Buffer, name: string, type: string): Promise<void> {
  await page.evaluate(
    (base64, fileName, mediaType) => {
      const content = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      const dataTransfer = new DataTransfer();
      dataTransfer.items.add(new File([content], fileName, { type: mediaType }));
      for (const kind of ["dragenter", "dragover", "drop"]) {
        document.body.dispatchEvent(new DragEvent(kind, { dataTransfer, bubbles: true, cancelable: true }));
      }
    },
    bytes.toString("base64"),
    name,
    type,
  );
}
