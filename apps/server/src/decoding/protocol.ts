import {
  type ArtworkPaths,
  type FontRead,
  type PageBox,
  type PageLayer,
  type PageView,
} from "@hardline/contract";
import { type ArtworkReading } from "@hardline/core/reading/reading";
import { type ArtworkFacts } from "@hardline/core/route/source";
import { type WedgeReading } from "@hardline/core/wedge/readPhoto";
import { type Part } from "@hardline/intake";

/** What the process that decodes is asked: all files by their paths, so that no pixels cross over. */
export type Asked =
  | {
      readonly what: "take";
      readonly file: string;
      /** A folder of its own for what comes out. */
      readonly folder: string;
      readonly part: Part;
      /** Pictures of more pixels are left for another process, which may take longer and more memory. */
      readonly mostPixels: number;
    }
  /** A lossless PNG of before, to be kept halved too. */
  | { readonly what: "halve"; readonly file: string; readonly folder: string }
  | {
      readonly what: "draw";
      readonly file: string;
      readonly folder: string;
      readonly part: Part;
      readonly width: number;
    }
  /** Which pages a file has. */
  | { readonly what: "pages"; readonly file: string }
  /** Which paths it has. */
  | { readonly what: "paths"; readonly file: string; readonly part: Part }
  /** A font's file. */
  | { readonly what: "font"; readonly file: string }
  /** A photograph of a step wedge, as a PNG. */
  | {
      readonly what: "wedge";
      readonly file: string;
      readonly dotsPerInch: number;
      readonly burnsPale: boolean;
    };

export interface Taken {
  readonly facts: ArtworkFacts;
  readonly pages: number;
  readonly boxes: readonly PageBox[];
  readonly layers: readonly PageLayer[];
  readonly widthMm: number | null;
  readonly kind: { readonly name: string; readonly mediaType: string; readonly extension: string };
  readonly notes: readonly string[];
  readonly reading: ArtworkReading;
  /** Lossless PNG; null for artwork made of shapes. */
  readonly pixels: string | null;
  /** The same halved once, twice ... as often as it is kept. */
  readonly halves: readonly string[];
  readonly thumbnail: string;
}

export type Answer =
  | { readonly taken: Taken }
  | { readonly drawn: string }
  | { readonly pages: readonly PageView[] }
  | { readonly paths: ArtworkPaths }
  | { readonly halves: readonly string[] }
  | { readonly wedge: WedgeReading }
  | { readonly font: FontRead }
  | { readonly tooLarge: true }
  /** Not taken in, with the reason; or a fault of the program. */
  | { readonly refused: string }
  | { readonly fault: string };
