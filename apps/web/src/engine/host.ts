import { type PngHost } from "@hardline/core/format/readPng";
import { mapArrays, type Result } from "@hardline/core/result/result";

/** Gives the worker's event loop a turn: faster than a timer, which browsers hold back. */
const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();
export const pause = (): Promise<void> =>
  new Promise((done) => {
    waiting.push(done);
    channel.port2.postMessage(null);
  });

/** Whether memory can be shared with other workers: the page must be isolated by its headers. */
export const canShare = typeof SharedArrayBuffer !== "undefined" && self.crossOriginIsolated;

/** Room that other workers can read too, where the browser allows it. */
export const sharedRoom = (bytes: number): Uint8Array =>
  new Uint8Array(canShare ? new SharedArrayBuffer(bytes) : new ArrayBuffer(bytes));

/** A result in shared memory; null where there is none, and every worker must make its own. */
export function shared(result: Result): Result | null {
  if (!canShare) return null;
  const moved = new Map<ArrayBufferLike, SharedArrayBuffer>();
  return mapArrays(result, (array) => {
    const { buffer, byteOffset } = array;
    if (buffer instanceof SharedArrayBuffer) return array;
    let room = moved.get(buffer);
    if (!room) {
      room = new SharedArrayBuffer(buffer.byteLength);
      new Uint8Array(room).set(new Uint8Array(buffer));
      moved.set(buffer, room);
    }
    type Kind = new (b: ArrayBufferLike, at: number, length: number) => ArrayBufferView;
    const length = (array as unknown as { length: number }).length;
    return new (array.constructor as unknown as Kind)(room, byteOffset, length);
  });
}

/** What a stream brings, piece by piece; one that is left is ended. */
export async function* piecesOf(stream: ReadableStream<Uint8Array>): AsyncIterable<Uint8Array> {
  const reader = stream.getReader();
  try {
    for (;;) {
      const { done, value } = await reader.read();
      if (done) return;
      yield value;
    }
  } finally {
    void reader.cancel();
  }
}

/** Reads the lossless picture of an artwork as it arrives. */
export const pngHost: Omit<PngHost, "pause"> = {
  room: sharedRoom,
  inflate: (data) => {
    const iterator = data[Symbol.asyncIterator]();
    const source = new ReadableStream<Uint8Array<ArrayBuffer>>({
      async pull(controller) {
        try {
          const { done, value } = await iterator.next();
          if (done) controller.close();
          else controller.enqueue(value as Uint8Array<ArrayBuffer>);
        } catch (error) {
          controller.error(error);
        }
      },
    });
    return piecesOf(source.pipeThrough(new DecompressionStream("deflate")));
  },
};
