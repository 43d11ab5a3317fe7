import { anchorTag, badgeAsJpeg, houseNumber } from "./flatArt";
import { crestAsJpeg } from "./wheelCrest";
import { inkDrawing } from "./inkDrawing";
import { painting, paperShot } from "./painting";
import { photograph } from "./photograph";
import { ternEmblem } from "./ternEmblem";
import { bellShot, buoyShot } from "./turned";

/** Every artwork of the demo, by file name, drawn or rendered when asked for. */
export const ARTWORKS = {
  "harbour-light.jpg": () => photograph(3888, 2592, 92),
  "boat-in-ink.jpg": inkDrawing,
  "rowing-badge.jpg": badgeAsJpeg,
  "pilot-crest.jpg": () => crestAsJpeg(),
  "ships-bell.jpg": async () => (await bellShot()).jpeg,
  "buoy.jpg": async () => (await buoyShot()).jpeg,
  "puffin.png": painting,
  "puffin-on-paper.jpg": async () => (await paperShot()).jpeg,
  "skerry-from-the-web.jpg": () => photograph(240, 160, 38, { pan: -0.34, lens: 0.3, tower: false }),
  "anchor-tag.svg": async () => Buffer.from(anchorTag()),
  "sailing-week.svg": async () => Buffer.from(ternEmblem()),
  "house-number.svg": async () => Buffer.from(houseNumber()),
} as const satisfies Record<string, () => Promise<Buffer>>;

export type ArtworkName = keyof typeof ARTWORKS;
