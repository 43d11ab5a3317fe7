import { type PathEdit, type PathEditOf } from "@hardline/core/edit/operations";

export type TextEdit = PathEditOf<"text">;

/** Words among the edits of a stage, with their numbers. */
export const textsIn = (edits: readonly PathEdit[]): { readonly at: number; readonly edit: TextEdit }[] =>
  edits.flatMap((edit, at) => (edit.edit === "text" ? [{ at, edit }] : []));

/** The same edits, one of them changed. */
export const changed = (edits: readonly PathEdit[], at: number, change: Partial<TextEdit>): PathEdit[] =>
  edits.map((edit, k) => (k === at && edit.edit === "text" ? { ...edit, ...change } : edit));

/** Words as they are first put on the piece. */
export const newText = (at: TextEdit["at"], like: TextEdit | undefined, heightMm: number): TextEdit => ({
  ...{ edit: "text", text: "Words", at, font: like?.font ?? "grotesque" },
  capitalMm: like?.capitalMm ?? sizeFor(heightMm),
  ...{ trackingPercent: like?.trackingPercent ?? 0, leading: like?.leading ?? 1.6 },
  ...{ align: like?.align ?? "middle", turnDegrees: 0, mirrored: false, bridgeMm: like?.bridgeMm ?? 0 },
});

/** A capital is an eighth of the piece's height, in whole millimetres, where nothing was set before. */
const sizeFor = (heightMm: number): number => Math.min(40, Math.max(1, Math.round(heightMm / 8)));
