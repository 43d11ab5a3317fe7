import { halvesKept } from "@hardline/core/raster/keptHalves";
import { type FoundPaper } from "@hardline/core/paper/findPaper";
import { transfer, wrap } from "comlink";
import { useEffect, useState } from "react";
import { answered } from "../../../shared/answered";
import { type Finder } from "./paperWorker";

interface Size {
  readonly width: number;
  readonly height: number;
}

/** A photograph of so many pixels is enough to place corners on it to a part of one. */
const ENOUGH = 8e6;

/** The artwork as it was supplied, whole or halved. */
async function readPhotograph(artworkId: string, { width, height }: Size): Promise<ImageBitmap> {
  let times = 0;
  while (times < halvesKept(width, height) && (width * height) / 4 ** times > ENOUGH) times++;
  const response = await fetch(`/api/artworks/${artworkId}/pixels${times > 0 ? `?halved=${times}` : ""}`);
  if (!response.ok) throw new Error("The artwork cannot be read from the server.");
  return createImageBitmap(await response.blob(), { colorSpaceConversion: "none" });
}

/** The photograph once it has been read; null until then, and while it is not wanted. */
export function usePhotograph(artwork: Size & { readonly id: string }, wanted: boolean): ImageBitmap | null {
  const [read, setRead] = useState<{ id: string; picture: ImageBitmap } | null>(null);
  const { id, width, height } = artwork;
  const held = read?.id === id;
  useEffect(() => {
    if (!wanted || held) return;
    let live = true;
    void answered(readPhotograph(id, { width, height }), "The photograph cannot be shown").then((picture) => {
      if (live && picture) setRead({ id, picture });
    });
    return () => {
      live = false;
    };
  }, [id, width, height, wanted, held]);
  return held ? read.picture : null;
}

/** Looks for a paper on it, in a thread of its own. */
export async function foundOn(photograph: ImageBitmap): Promise<FoundPaper | null> {
  const { width, height } = photograph;
  const pen = new OffscreenCanvas(width, height).getContext("2d", { willReadFrequently: true })!;
  pen.fillStyle = "#fff";
  pen.fillRect(0, 0, width, height);
  pen.drawImage(photograph, 0, 0);
  const data = new Uint8Array(pen.getImageData(0, 0, width, height).data.buffer);
  const worker = new Worker(new URL("./paperWorker.ts", import.meta.url), { type: "module" });
  try {
    return await new Promise((found, failed) => {
      worker.addEventListener("error", (e) => failed(new Error(e.message)));
      wrap<Finder>(worker)
        .find(width, height, transfer(data, [data.buffer]))
        .then(found, failed);
    });
  } finally {
    worker.terminate();
  }
}
