import { type FontSource } from "@hardline/core/letters/shelf";
import program from "harfbuzzjs/hb.wasm?url";

async function served(address: string): Promise<ArrayBuffer> {
  const response = await fetch(address);
  if (!response.ok) throw new Error(`the server has none (${response.status})`);
  return response.arrayBuffer();
}

/** Fonts as the server has them, and the program that puts their letters into order. */
export const servedFonts: FontSource = {
  bytes: async (key) => new Uint8Array(await served(`/api/fonts/${key}/file`)),
  program: () => served(program),
};
