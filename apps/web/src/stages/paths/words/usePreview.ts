import { standsOn } from "@hardline/core/edit/operations/text";
import { drive } from "@hardline/core/maths/work";
import { affinePath, scaleAbout } from "@hardline/core/path/affine";
import { useEffect, useState } from "react";
import { breath } from "../../../shared/breath";
import { type TablePath } from "../onTable";
import { pathOf } from "../pathOf";
import { type TextEdit } from "./textEdits";

/** Words as they will be, about the place that they are set at, in mm. */
export interface Preview {
  readonly path: Path2D | null;
  readonly isLines: boolean;
}

/**
 * Words set on the page itself, so that they follow the keys while the route is computed; null where the table shows them
 * already, or they stand on a path.
 *
 * @param paths  what the table shows: new ones have the words
 */
export function usePreview(edit: TextEdit | undefined, paths: readonly TablePath[]): Preview | null {
  const [made, setMade] = useState<{ readonly of: TextEdit; readonly preview: Preview } | null>(null);
  // What was on the table when these words were first seen.
  const [seen, setSeen] = useState({ edit, paths });
  if (seen.edit !== edit) setSeen({ edit, paths });
  useEffect(() => {
    if (!edit || edit.along?.kind === "path") return;
    let wanted = true;
    void previewOf(edit).then(
      (preview) => wanted && setMade({ of: edit, preview }),
      () => undefined, // without it the words come with the route
    );
    return () => {
      wanted = false;
    };
  }, [edit]);
  return made && made.of === edit && seen.edit === edit && seen.paths === paths ? made.preview : null;
}

async function previewOf(edit: TextEdit): Promise<Preview> {
  const [{ setWords }, { readyFonts, typefaceOf }, { servedFonts }] = await Promise.all([
    import("@hardline/core/letters/words"),
    import("@hardline/core/letters/shelf"),
    import("../../../api/servedFonts"),
  ]);
  await readyFonts([edit.font], servedFonts);
  const on = standsOn(edit.along);
  const { paths, isLines } = await drive(setWords(typefaceOf(edit.font)!, { ...edit, on }), {
    pause: breath,
  });
  const seen = edit.mirrored ? paths.map((path) => affinePath(path, scaleAbout(-1, 1, [0, 0]))) : paths;
  return { path: pathOf(seen), isLines };
}
