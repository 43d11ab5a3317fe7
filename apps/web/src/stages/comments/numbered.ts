import { type CommentView } from "@hardline/contract";

export interface Numbered {
  readonly comment: CommentView;
  /** Of its pin on the picture; null where it has none here. */
  readonly number: number | null;
}

/** Open comments first, each with the number of its pin: a place counts on the route that it was made on, or on any. */
export function numbered(comments: readonly CommentView[], routeId: string): Numbered[] {
  const ordered = [...comments.filter((c) => !c.done), ...comments.filter((c) => c.done)];
  let last = 0;
  return ordered.map((comment) => {
    const here = comment.place !== null && (comment.routeId === null || comment.routeId === routeId);
    return { comment, number: here && !comment.done ? ++last : null };
  });
}
