import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";
import { join } from "node:path";

/** A PDF that another program made. */
export interface MadePdf {
  readonly name: string;
  readonly path: string;
  readonly page: number;
  readonly unseen: boolean;
}

const svg = (body: string, [w, h] = [300, 200]): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${w}" height="${h}" viewBox="0 0 ${w} ${h}">${body}</svg>`;

const DRAWINGS: readonly (readonly [what: string, picture: string])[] = [
  [
    "flat shapes",
    svg(
      `<rect width="300" height="200" fill="#f4e6c0"/><circle cx="110" cy="100" r="70" fill="#1f4c8f"/><path d="M150 30l110 60-60 90z" fill="#c8452f"/><rect x="20" y="150" width="90" height="30" rx="12" fill="#2f7d4f"/>`,
    ),
  ],
  [
    "letters",
    svg(
      `<text x="20" y="60" font-family="sans-serif" font-size="38">Harbour Light</text><text x="20" y="110" font-family="serif" font-style="italic" font-size="24">Kiln &amp; Larder, since 1987</text><text x="20" y="160" font-family="monospace" font-size="13">No. 40512 / 3 mm birch ply</text>`,
    ),
  ],
  [
    "gradients",
    svg(
      `<defs><linearGradient id="a" x1="0" x2="1"><stop offset="0" stop-color="#103060"/><stop offset=".6" stop-color="#d07040"/><stop offset="1" stop-color="#fff2c0"/></linearGradient><radialGradient id="b"><stop offset="0" stop-color="#fff"/><stop offset="1" stop-color="#206040"/></radialGradient></defs><rect width="300" height="200" fill="url(#a)"/><circle cx="200" cy="110" r="70" fill="url(#b)"/>`,
    ),
  ],
  [
    "see-through groups",
    svg(
      `<rect width="300" height="200" fill="#fff"/><g opacity=".5"><circle cx="110" cy="90" r="60" fill="#c22"/><circle cx="170" cy="90" r="60" fill="#22c"/></g><circle cx="140" cy="140" r="50" fill="#2a2" fill-opacity=".4"/>`,
    ),
  ],
  [
    "clips and patterns",
    svg(
      `<defs><clipPath id="c"><path d="M150 10l40 70 80 10-60 55 15 45-75-30-75 30 15-45-60-55 80-10z"/></clipPath><pattern id="p" width="14" height="14" patternUnits="userSpaceOnUse"><rect width="14" height="14" fill="#fff3d0"/><circle cx="7" cy="7" r="4" fill="#803010"/></pattern></defs><g clip-path="url(#c)"><rect width="300" height="200" fill="url(#p)"/><rect y="110" width="300" height="90" fill="#205080"/></g>`,
    ),
  ],
  [
    "thin lines",
    svg(
      Array.from(
        { length: 24 },
        (_, k) =>
          `<path d="M10 ${12 + k * 7}q140 ${k * 3 - 40} 280 ${k % 5}" fill="none" stroke="#${k % 3 ? "222" : "a33"}" stroke-width="${0.25 + k * 0.08}"${k % 4 ? "" : ' stroke-dasharray="6 3"'}/>`,
      ).join(""),
    ),
  ],
  [
    "strokes and joins",
    svg(
      `<path d="M30 160L80 40l50 120 50-120 50 120" fill="none" stroke="#124" stroke-width="18" stroke-linejoin="round" stroke-linecap="round"/><path d="M40 180h220" stroke="#b30" stroke-width="9"/><path d="M240 30l40 60-70-20z" fill="none" stroke="#383" stroke-width="7" stroke-linejoin="miter"/>`,
    ),
  ],
  [
    "even-odd and holes",
    svg(
      `<path fill-rule="evenodd" d="M20 20h260v160h-260z M50 50h200v100h-200z M80 70a50 30 0 1 0 100 0a50 30 0 1 0-100 0z" fill="#5a2d82"/>`,
    ),
  ],
];

/** Drawings in PostScript, in colours for print. */
const PRINTED: readonly (readonly [what: string, code: string])[] = [
  [
    "CMYK",
    "0.1 0.7 0.9 0 setcmykcolor 20 20 120 120 rectfill 0.9 0.5 0 0.1 setcmykcolor 100 60 150 100 rectfill 0 0 0 1 setcmykcolor 40 150 200 20 rectfill",
  ],
  [
    "a spot colour",
    "[/Separation (Brass) /DeviceCMYK {dup 0.2 mul exch dup 0.4 mul exch 0.8 mul 0}] setcolorspace 1 setcolor 20 20 110 150 rectfill 0.4 setcolor 150 20 110 150 rectfill",
  ],
  [
    "a shading",
    "<< /ShadingType 3 /ColorSpace /DeviceRGB /Coords [150 100 10 150 100 95] /Extend [true false] /Function << /FunctionType 2 /Domain [0 1] /C0 [1 0.9 0.5] /C1 [0.1 0.2 0.5] /N 1.4 >> >> shfill",
  ],
  [
    "base fonts",
    "/Times-Roman 40 selectfont 20 130 moveto (Larder) show /Helvetica-Bold 30 selectfont 20 80 moveto (Open daily) show /Courier 16 selectfont 20 40 moveto (0123456789) show",
  ],
  [
    "a picture among shapes",
    "0.9 setgray 0 0 300 200 rectfill gsave 60 40 translate 180 120 scale 6 4 8 [6 0 0 -4 0 4] {<00336699ccff3366ccff00ff6699003399ccff0033ccff66>} image grestore 1 0 0 setrgbcolor 10 10 40 40 rectfill",
  ],
  [
    "a picture of one bit",
    "gsave 300 200 scale 0 0 0.4 setrgbcolor 32 8 false [32 0 0 -8 0 8] {<ff00aa55f0f0cc33123456789abcdef00f0f3333aaaa5555deadbeefcafe0123>} imagemask grestore",
  ],
];

const REPORT = `
import sys
from reportlab.pdfgen import canvas
from reportlab.lib.units import mm
from reportlab.lib import colors
folder = sys.argv[1]
c = canvas.Canvas(folder + "/report-1.pdf", pagesize=(90 * mm, 60 * mm))
c.setFillColorCMYK(0.7, 0.1, 0.3, 0.1); c.roundRect(5 * mm, 5 * mm, 80 * mm, 50 * mm, 6 * mm, stroke=0, fill=1)
c.setFillColorRGB(1, 1, 1); c.setFont("Helvetica-Bold", 20); c.drawCentredString(45 * mm, 28 * mm, "SALT & OAK"); c.showPage(); c.save()
c = canvas.Canvas(folder + "/report-2.pdf", pagesize=(120 * mm, 80 * mm))
for p in range(3):
    c.setFillAlpha(0.35 + 0.2 * p); c.setFillColor([colors.navy, colors.firebrick, colors.seagreen][p])
    c.circle((40 + 20 * p) * mm, 40 * mm, 26 * mm, stroke=0, fill=1)
c.showPage()
c.linearGradient(0, 0, 120 * mm, 80 * mm, (colors.gold, colors.teal)); c.showPage()
c.rotate(20); c.setFont("Times-Italic", 34); c.drawString(30 * mm, 10 * mm, "turned by twenty"); c.showPage(); c.save()
c = canvas.Canvas(folder + "/report-3.pdf", pagesize=(100 * mm, 100 * mm))
c.setDash([3, 2]); c.setLineWidth(0.4)
for k in range(30): c.bezier(5 * mm, (5 + 3 * k) * mm, 40 * mm, (60 - k) * mm, 60 * mm, (3 * k) * mm, 95 * mm, (95 - 3 * k) * mm)
c.showPage(); c.save()
`;

const TYPESET = (what: string): string =>
  `.pl 8c\n.po 1c\n.ll 10c\n.nr PS 14\n.ps 16\n.vs 20\n.ft B\n${what}\n.br\n.ps 10\n.vs 13\n.ft R\nA sign is read before it is looked at. Letters that stand too close run together when they are burned, and a hair line is gone. \\fIMeasure twice.\\fP\n.br\n\\D'c 1.2c' \\D'P 1c 0 0 1c -1c 0' \\D'l 3c -1c'\n`;

/** Makes them all in a folder. Every third of each program's is one by which no rule is set. */
export function makePdfs(folder: string): MadePdf[] {
  const made: MadePdf[] = [];
  const counts = new Map<string, number>();
  const add = (program: string, what: string, path: string, page = 1) => {
    const n = (counts.get(program) ?? 0) + 1;
    counts.set(program, n);
    made.push({ name: `${program}, ${what}`, path, page, unseen: n % 3 === 0 });
  };
  const at = (name: string) => join(folder, name);
  const run = (command: string, args: readonly string[]) => execFileSync(command, args, { stdio: "pipe" });
  DRAWINGS.forEach(([what, picture], k) => {
    writeFileSync(at(`d${k}.svg`), picture);
    run("rsvg-convert", ["-f", "pdf", "-o", at(`cairo-${k}.pdf`), at(`d${k}.svg`)]);
    add("cairo", what, at(`cairo-${k}.pdf`));
    const html = `<style>@page{size:300px 200px;margin:0}body{margin:0}svg{display:block}</style>${picture}`;
    writeFileSync(at(`d${k}.html`), html);
    const safe = ["--headless", "--no-sandbox", "--disable-gpu", "--disable-background-networking"];
    const own = [`--user-data-dir=${at("browser")}`, "--disable-component-update", "--disable-sync"];
    const out = [
      "--no-first-run",
      "--disable-quic",
      "--no-pdf-header-footer",
      `--print-to-pdf=${at(`skia-${k}.pdf`)}`,
    ];
    run("chromium", [...safe, ...own, ...out, `file://${at(`d${k}.html`)}`]);
    add("a browser", what, at(`skia-${k}.pdf`));
  });
  PRINTED.forEach(([what, code], k) => {
    writeFileSync(at(`p${k}.ps`), `%!PS\n<< /PageSize [300 200] >> setpagedevice\n${code}\nshowpage\n`);
    run("gs", [
      "-q",
      "-dNOPAUSE",
      "-dBATCH",
      "-dSAFER",
      "-sDEVICE=pdfwrite",
      `-sOutputFile=${at(`gs-${k}.pdf`)}`,
      at(`p${k}.ps`),
    ]);
    add("Ghostscript", what, at(`gs-${k}.pdf`));
  });
  writeFileSync(at("report.py"), REPORT);
  run("/usr/bin/python3", [at("report.py"), folder]);
  add("a report's library", "a card in CMYK", at("report-1.pdf"));
  for (const [k, what] of ["see-through", "a gradient", "turned letters"].entries())
    add("a report's library", what, at("report-2.pdf"), k + 1);
  add("a report's library", "dashes", at("report-3.pdf"));
  for (const [k, what] of ["Salt and Oak", "Number 12"].entries()) {
    writeFileSync(at(`t${k}.roff`), TYPESET(what));
    writeFileSync(at(`groff-${k}.pdf`), run("groff", ["-Tpdf", "-P-p8c,12c", at(`t${k}.roff`)]));
    add("a typesetter", what, at(`groff-${k}.pdf`));
  }
  damage(folder, run, add);
  return made;
}

/** Whole files written anew in other ways, turned, cropped, and with bytes that are wrong. */
function damage(
  folder: string,
  run: (command: string, args: readonly string[]) => Buffer,
  add: (program: string, what: string, path: string, page?: number) => void,
): void {
  const at = (name: string) => join(folder, name);
  run("qpdf", ["--object-streams=generate", "--compress-streams=y", at("cairo-2.pdf"), at("q-0.pdf")]);
  add("qpdf", "objects in streams", at("q-0.pdf"));
  run("qpdf", ["--linearize", at("report-2.pdf"), at("q-1.pdf")]);
  add("qpdf", "for the web", at("q-1.pdf"), 2);
  run("qpdf", ["--rotate=+90:1", at("cairo-0.pdf"), at("q-2.pdf")]);
  add("qpdf", "turned", at("q-2.pdf"));
  run("qpdf", ["--encrypt", "", "owner", "256", "--", at("cairo-1.pdf"), at("q-3.pdf")]);
  add("qpdf", "locked against change alone", at("q-3.pdf"));
  run("qpdf", ["--qdf", at("gs-0.pdf"), at("q-4.pdf")]);
  const plain = execFileSync("cat", [at("q-4.pdf")]).toString("latin1");
  writeFileSync(at("q-5.pdf"), plain.replace(/startxref\n\d+/, "startxref\n3"), "latin1");
  add("qpdf", "a table of contents that is elsewhere", at("q-5.pdf"));
  writeFileSync(at("q-6.pdf"), plain.replace(/\/Length \d+ 0 R/g, "/Length 7"), "latin1");
  add("qpdf", "lengths that are wrong", at("q-6.pdf"));
  writeFileSync(at("q-7.pdf"), plain.replace(/0000000\d\d\d 00000 n/g, "0000000001 00000 n"), "latin1");
  add("qpdf", "entries that are wrong", at("q-7.pdf"));
  writeFileSync(at("q-8.pdf"), plain.slice(0, plain.lastIndexOf("xref\n")), "latin1");
  add("qpdf", "its end lost", at("q-8.pdf"));
}
