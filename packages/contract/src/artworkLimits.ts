/** What an artwork may be; said to people when it is exceeded. */
export const MOST_ARTWORK_BYTES = 200 * 1024 * 1024;
export const MOST_ARTWORK_PIXELS = 200e6;
export const ARTWORK_FORMATS = "PNG, JPEG, WebP, TIFF, GIF, BMP or SVG";
