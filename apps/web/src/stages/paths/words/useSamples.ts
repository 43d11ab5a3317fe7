import { type FontView } from "@hardline/contract";
import { useEffect } from "react";

/** As a sample of a font is called among the page's own. */
export const sampleOf = ({ key }: FontView): string => `words-${key}`;

const asked = new Set<string>();

/** Has fonts at hand for samples of them. One of single lines has nothing that a page can fill. */
export function useSamples(fonts: readonly FontView[]): void {
  useEffect(() => {
    for (const font of fonts) {
      if (font.isLines || asked.has(font.key)) continue;
      asked.add(font.key);
      const face = new FontFace(sampleOf(font), `url(/api/fonts/${font.key}/file)`);
      face
        .load()
        .then(() => document.fonts.add(face))
        .catch(() => undefined); // without it the sample is shown in the page's own letters
    }
  }, [fonts]);
}
