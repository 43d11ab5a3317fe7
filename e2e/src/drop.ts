import { type Page } from "puppeteer-core";

export interface Dropped {
  readonly bytes: Uint8Array;
  readonly name: string;
  readonly type: string;
}

/** Drops a file onto the page, as a hand would. */
export const drop = (page: Page, bytes: Uint8Array, name: string, type: string): Promise<void> =>
  dropAll(page, [{ bytes, name, type }]);

/** Drops several at once. */
export async function dropAll(page: Page, files: readonly Dropped[]): Promise<void> {
  const coded = files.map(({ bytes, name, type }) => ({
    base64: Buffer.from(bytes).toString("base64"),
    name,
    type,
  }));
  await page.evaluate((all) => {
    const dataTransfer = new DataTransfer();
    for (const { base64, name, type } of all) {
      const content = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0));
      dataTransfer.items.add(new File([content], name, { type }));
    }
    for (const kind of ["dragenter", "dragover", "drop"])
      document.body.dispatchEvent(new DragEvent(kind, { dataTransfer, bubbles: true, cancelable: true }));
  }, coded);
}
