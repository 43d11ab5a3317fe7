import { type PhotoView } from "@hardline/contract";
import { type PhotoSource } from "@hardline/core/mockUp/photos";
import { type Rgba } from "@hardline/core/raster/types";

/** Photographs of things as the server has them. @param pixels  the way to an artwork's pixels */
export const servedPhotos = (pixels: (artworkId: string) => Promise<Rgba>): PhotoSource => ({
  photo: async (key) => {
    const response = await fetch(`/api/photos/${key}`);
    if (!response.ok) throw new Error(`the server has none (${response.status})`);
    return pixels(((await response.json()) as PhotoView).artworkId);
  },
});
