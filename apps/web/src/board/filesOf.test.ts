/** @jest-environment jsdom */
import { strToU8, zipSync } from "fflate";
import { filesDropped, filesPasted, MOST_FILES, unpacked } from "./filesOf";

jest.mock("@hardline/contract/constants", () => ({ MOST_ARTWORK_BYTES: 2 ** 20 }));

const fileOf = (name: string, content: Uint8Array | string): File => {
  const bytes = typeof content === "string" ? strToU8(content) : content;
  const file = new File([Uint8Array.from(bytes)], name);
  // jsdom's files have no way to their bytes.
  const read = (from = 0, to = bytes.length) => ({
    arrayBuffer: async () => Uint8Array.from(bytes.subarray(from, to)).buffer,
  });
  return Object.assign(file, { slice: read, ...read() }) as unknown as File;
};
const names = (files: readonly File[]) => files.map((f) => f.name);

test("what is in an archive stands in its place; folders and hidden files in it are passed over", async () => {
  const zip = zipSync({
    "order/one.png": strToU8("1"),
    "order/": new Uint8Array(),
    "__MACOSX/order/._one.png": strToU8("x"),
    "order/.DS_Store": strToU8("x"),
    "two.svg": strToU8("22"),
  });
  const { files, refused } = await unpacked([
    fileOf("a.png", "a"),
    fileOf("order.zip", zip),
    fileOf("b.png", "b"),
  ]);
  expect(names(files)).toEqual(["a.png", "one.png", "two.svg", "b.png"]);
  expect(files.map((f) => f.size)).toEqual([1, 1, 2, 1]);
  expect(refused).toEqual([]);
});

test.each([
  ["an archive of nothing", zipSync({ "folder/": new Uint8Array() }), /holds no file/],
  [
    "more files than are taken",
    zipSync(Object.fromEntries(Array.from({ length: MOST_FILES + 3 }, (_, k) => [`${k}.png`, strToU8("x")]))),
    /holds more than 500 files/,
  ],
  [
    "a file larger than is taken",
    zipSync({ "big.tif": new Uint8Array(2 ** 20 + 1) }),
    /big.tif in it has more than 1 MB/,
  ],
])("%s is refused, and the rest goes on", async (_, zip, why) => {
  const { files, refused } = await unpacked([fileOf("odd.zip", zip), fileOf("b.png", "b")]);
  expect(names(files)).toEqual(["b.png"]);
  expect(refused).toEqual([{ name: "odd.zip", why: expect.stringMatching(why) as string }]);
});

test("of an archive that is cut off what is whole is taken, and the rest is told", async () => {
  const noise = Uint8Array.from({ length: 5000 }, (_, i) => (i * i * 7919) >> 5);
  const zip = zipSync({ "whole.png": strToU8("w"), "half.png": noise }).subarray(0, 2000);
  const { files, refused } = await unpacked([fileOf("order.zip", zip), fileOf("b.png", "b")]);
  expect(names(files)).toEqual(["whole.png", "b.png"]);
  expect(refused).toEqual([{ name: "half.png", why: "It is cut off in order.zip." }]);
});

test("a file that cannot be read is told, and the rest goes on", async () => {
  const gone = Object.assign(fileOf("gone.png", "x"), {
    slice: () => ({ arrayBuffer: () => Promise.reject(new Error("It was moved or changed.")) }),
  });
  const { files, refused } = await unpacked([gone, fileOf("b.png", "b")]);
  expect([names(files), refused]).toEqual([
    ["b.png"],
    [{ name: "gone.png", why: "It was moved or changed." }],
  ]);
});

test("more than are taken at once are told", async () => {
  const many = Array.from({ length: MOST_FILES + 2 }, (_, k) => fileOf(`${k}.png`, "x"));
  const { files, refused } = await unpacked(many);
  expect([files.length, names(files)[499], refused.map((r) => r.name)]).toEqual([
    500,
    "499.png",
    ["500.png", "501.png"],
  ]);
});

describe("a folder that is dropped", () => {
  const entryOf = (path: string): FileSystemEntry =>
    ({
      ...{ isFile: true, isDirectory: false, name: path.replace(/^.*\//, ""), fullPath: path },
      file: (done: (f: File) => void) => done(fileOf(path.replace(/^.*\//, ""), "x")),
    }) as unknown as FileSystemEntry;
  const folderOf = (path: string, stretches: FileSystemEntry[][]): FileSystemEntry =>
    ({
      ...{ isFile: false, isDirectory: true, name: path.replace(/^.*\//, ""), fullPath: path },
      createReader: () => {
        const left = [...stretches];
        return { readEntries: (done: (e: FileSystemEntry[]) => void) => done(left.shift() ?? []) };
      },
    }) as unknown as FileSystemEntry;

  test("gives its files and those in folders in it, by their paths, however it is told", async () => {
    const inner = folderOf("/order/back", [[entryOf("/order/back/z.png")]]);
    const order = folderOf("/order", [
      [entryOf("/order/b.png"), inner],
      [entryOf("/order/a.png"), entryOf("/order/.hidden")],
    ]);
    const items = [{ webkitGetAsEntry: () => order }];
    const files = await filesDropped({ items, files: [] } as unknown as DataTransfer);
    expect(names(files)).toEqual(["a.png", "b.png", "z.png"]);
  });
});

test.each([
  ['<svg xmlns="x"/>', true],
  [' <?xml version="1.0"?><!-- a --><svg viewBox="0 0 1 1"></svg>', true],
  ["<svgs>", false],
  ["a word about <svg>", false],
  ["", false],
])("%s pasted as text: a drawing %s", (text, is) => {
  const files = filesPasted({ files: [] as unknown as FileList, getData: () => text });
  expect(names(files)).toEqual(is ? ["pasted.svg"] : []);
});
