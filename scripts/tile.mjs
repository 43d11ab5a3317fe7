// Works out the blue-noise tile that core scatters dots by, when it is not there or its recipe changed.
import { transformFileSync } from "@swc/core";
import { existsSync, statSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

const SIDE = 128;
const core = join(dirname(dirname(fileURLToPath(import.meta.url))), "packages/core/src");
const tile = join(core, "screen/blueNoiseTile.ts");
const recipe = ["screen/voidAndCluster.ts", "maths/steady.ts"].map((f) => join(core, f));
const made = existsSync(tile) ? statSync(tile).mtimeMs : 0;
if ([...recipe, fileURLToPath(import.meta.url)].some((file) => statSync(file).mtimeMs > made)) {
  const load = (file, need) => {
    const { code } = transformFileSync(file, {
      swcrc: false,
      module: { type: "commonjs" },
      jsc: { target: "es2022", parser: { syntax: "typescript" } },
    });
    const exported = {};
    new Function("exports", "require", code)(exported, need);
    return exported;
  };
  const { voidAndCluster } = load(recipe[0], () => load(recipe[1]));
  const order = [];
  voidAndCluster(SIDE).forEach((rank, at) => (order[rank] = at.toString(16).padStart(4, "0")));
  writeFileSync(
    tile,
    `/* Made by scripts/tile.mjs from voidAndCluster.ts. */

/** Side of the tile, in pixels. */
export const BLUE_NOISE_SIDE = ${SIDE};
/** Its pixels in the order in which they are marked, four hexadecimal digits each. */
export const BLUE_NOISE_ORDER =
  "${order.join("")}";
`,
  );
  console.error("made the blue-noise tile");
}
