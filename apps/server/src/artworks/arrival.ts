import { MOST_ARTWORK_BYTES } from "@hardline/contract";
import { type Request } from "express";
import { createHash } from "node:crypto";
import { createWriteStream } from "node:fs";
import { join } from "node:path";
import { Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { ProblemException } from "../http/problems";
import { type Arrived } from "./artworks.service";

/** Uploads that are received at once; further ones wait with their bytes still on the way. */
const MOST_AT_ONCE = 6;
const MOST_WAITING = 60;

/** Lets so many in at once. */
export class Gate {
  private inside = 0;
  private readonly line: (() => void)[] = [];

  constructor(
    private readonly atOnce: number,
    private readonly mostWaiting: number,
  ) {}

  /** @throws ProblemException when too many stand in line */
  async through<T>(act: () => Promise<T>): Promise<T> {
    if (this.inside >= this.atOnce) {
      if (this.line.length >= this.mostWaiting) {
        throw new ProblemException(
          503,
          "Too much at once",
          `${this.line.length} files wait to be received. Nothing was changed; try again in a moment.`,
        );
      }
      await new Promise<void>((enter) => this.line.push(enter));
    } else this.inside++;
    try {
      return await act();
    } finally {
      const next = this.line.shift();
      if (next) next();
      else this.inside--;
    }
  }
}

const gate = new Gate(MOST_AT_ONCE, MOST_WAITING);

/** Writes a request's body to a file of the folder; refuses it as soon as it exceeds what is taken. */
export async function receive(request: Request, folder: string): Promise<Arrived> {
  const tooLarge = (bytes: number) =>
    new ProblemException(
      413,
      "Artwork too large",
      `The file has ${(bytes / 1048576).toFixed(0)} MB; 200 MB or less is taken.`,
    );
  const announced = Number(request.headers["content-length"] ?? 0);
  if (announced > MOST_ARTWORK_BYTES) {
    request.resume();
    throw tooLarge(announced);
  }
  const path = join(folder, "artwork");
  const hash = createHash("sha256");
  let bytes = 0;
  const count = new Transform({
    transform(chunk: Buffer, _encoding, next) {
      bytes += chunk.length;
      hash.update(chunk);
      next(bytes > MOST_ARTWORK_BYTES ? tooLarge(bytes) : null, chunk);
    },
  });
  await gate.through(() => pipeline(request, count, createWriteStream(path)));
  return { path, bytes, sha256: hash.digest("hex") };
}
