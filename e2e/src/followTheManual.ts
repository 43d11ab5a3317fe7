import { execFileSync } from "node:child_process";
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  symlinkSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { ROOT } from "./harness";

/** A block of the manual that is a file, or a change to one. */
export interface Instruction {
  readonly kind: "file" | "change";
  readonly path: string;
  readonly text: string;
}

/** The blocks of a section of a Markdown file whose first line names a file. */
export function instructionsOf(markdown: string, heading: string): Instruction[] {
  const section = markdown.slice(markdown.indexOf(`\n## ${heading}\n`));
  return [...section.matchAll(/^```(\w+) (\S+\/\S+)\n([\s\S]*?)^```$/gm)].map(([, language, path, text]) => ({
    kind: language === "diff" ? "change" : "file",
    path,
    text,
  }));
}

/** Does what an instruction says. @throws Error where a change does not fit the file, or fits twice */
export function follow(root: string, { kind, path, text }: Instruction): void {
  const file = join(root, path);
  if (kind === "file") {
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, text);
    return;
  }
  const lines = text.split("\n").slice(0, -1);
  const side = (mark: string) =>
    lines
      .filter((l) => l[0] === " " || l[0] === mark)
      .map((l) => `${l.slice(1)}\n`)
      .join("");
  const before = readFileSync(file, "utf8");
  const parts = before.split(side("-"));
  if (parts.length !== 2) throw new Error(`${path}: the change fits ${parts.length - 1} times\n${text}`);
  writeFileSync(file, parts.join(side("+")));
}

/** A copy of the project in a temporary folder, with the packages that are installed here. */
export function copyOfProject(): string {
  const copy = mkdtempSync(join(tmpdir(), "hard-line-copy-"));
  const listed = execFileSync("git", ["ls-files", "-co", "--exclude-standard"], {
    cwd: ROOT,
    encoding: "utf8",
  });
  for (const name of listed.split("\n").filter((n) => n && existsSync(join(ROOT, n)))) {
    mkdirSync(dirname(join(copy, name)), { recursive: true });
    cpSync(join(ROOT, name), join(copy, name));
  }
  linkPackages(join(ROOT, "node_modules"), join(copy, "node_modules"));
  const own = join(copy, "node_modules/@hardline");
  mkdirSync(own);
  for (const folder of ["packages", "apps"])
    for (const name of readdirSync(join(copy, folder))) {
      if (existsSync(join(ROOT, folder, name, "node_modules")))
        linkPackages(join(ROOT, folder, name, "node_modules"), join(copy, folder, name, "node_modules"));
      symlinkSync(join(copy, folder, name), join(own, name));
    }
  for (const name of ["demo", "bench", "e2e"]) symlinkSync(join(copy, name), join(own, name));
  return copy;
}

function linkPackages(from: string, to: string): void {
  mkdirSync(to);
  for (const name of readdirSync(from))
    if (name !== "@hardline") symlinkSync(join(from, name), join(to, name));
}
