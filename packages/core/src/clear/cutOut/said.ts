/** What strokes say of each pixel. */
export const KEEP = 1;
export const AWAY = 2;
