import { defineFace } from "../face";
import { CommentsHands } from "./CommentsHands";
import { CommentsPanel } from "./CommentsPanel";
import { usePointing, type Pointing } from "./usePointing";

/** What people of the shop tell one another of a ticket, with a place on the picture. */
export const commentsFace = defineFace<Pointing>({
  id: "comments",
  title: "Comments",
  words: ({ watch }) =>
    !watch || watch.comments === 0
      ? "none open"
      : watch.comments === 1
        ? "one open"
        : `${watch.comments} open`,
  useTools: usePointing,
  Panel: CommentsPanel,
  Hands: CommentsHands,
});
