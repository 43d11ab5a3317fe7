const KEPT = "hardline.board";

/** Keeps what the address of the board says, for the way back to it. */
export const keepBoard = (params: string): void => sessionStorage.setItem(KEPT, params);

/** The address of the board as it was last looked at in this window. */
export function lastBoard(): string {
  const kept = sessionStorage.getItem(KEPT);
  return kept ? `/?${kept}` : "/";
}
