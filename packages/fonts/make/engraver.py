"""Makes files/engraver.otf, the font of single lines, from strokes in the JHF form of the Debian package hershey-fonts-data.

Needs Debian's python3-fonttools. Run by hand: /usr/bin/python3 packages/fonts/make/engraver.py

Strokes of many short straight pieces become curves where they turn little by little. A font has closed outlines only, so
each stroke is drawn there and back again; whoever reads the font takes one way of it. Accents are put on their letters.
"""
import math
import os
import sys
import unicodedata

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.t2CharStringPen import T2CharStringPen

HERE = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
SOURCE = "/usr/share/hershey-fonts/futural.jhf"
UNIT = 1000 / 32  # JHF's units: a capital is 21 high
BASE = 9  # y of the foot in JHF, downwards
CORNER = math.cos(math.radians(50))  # a turn beyond it is a corner


def read_jhf(path):
    glyphs, text = [], ""
    with open(path, encoding="ascii") as file:
        for line in file:
            line = line.rstrip("\n")
            text += line
            if len(text) >= 8 and len(text) >= 8 + 2 * int(text[5:8]):
                glyphs.append(text[8 : 8 + 2 * int(text[5:8])])
                text = ""
    for pairs in glyphs:
        left, right = ord(pairs[0]) - 82, ord(pairs[1]) - 82
        strokes, stroke = [], []
        for k in range(2, len(pairs), 2):
            if pairs[k : k + 2] == " R":
                strokes.append(stroke)
                stroke = []
            else:
                stroke.append((ord(pairs[k]) - 82 - left, BASE - (ord(pairs[k + 1]) - 82)))
        strokes.append(stroke)
        yield (right - left), [s for s in strokes if len(s) > 0]


def arc(cx, cy, r, n=16):
    return [(cx + r * math.sin(2 * math.pi * k / n), cy + r * math.cos(2 * math.pi * k / n)) for k in range(n + 1)]


# Accents about x = 0, over a small letter of height 14; over a capital they lie 7 higher.
MARKS = {
    0x300: [[(-3, 20), (1, 16.5)]],
    0x301: [[(3, 20), (-1, 16.5)]],
    0x302: [[(-3.5, 16.5), (0, 20), (3.5, 16.5)]],
    0x303: [[(-5, 17), (-4, 18.5), (-2.5, 19), (-1, 18.5), (1, 17.5), (2.5, 17), (4, 17.5), (5, 19)]],
    0x304: [[(-4, 18), (4, 18)]],
    0x306: [[(-3.5, 20), (-3, 18.3), (-1.5, 17), (0, 16.6), (1.5, 17), (3, 18.3), (3.5, 20)]],
    0x307: [arc(0, 18, 0.8, 8)],
    0x308: [arc(-3, 18, 0.8, 8), arc(3, 18, 0.8, 8)],
    0x30A: [arc(0, 18.5, 2.2)],
    0x30B: [[(-1, 20), (-4, 16.5)], [(4, 20), (1, 16.5)]],
    0x30C: [[(-3.5, 20), (0, 16.5), (3.5, 20)]],
    0x326: [[(0.5, -3), (0.5, -5), (-1, -7)]],
    0x327: [[(0, 0), (-0.5, -2), (1.5, -2.6), (2.4, -4), (1.6, -5.6), (-0.5, -6), (-2, -5.4)]],
    0x328: [[(2, 0), (0.3, -2), (0, -4), (1, -5.5), (3, -5.5)]],
}


def box(strokes):
    xs = [p[0] for s in strokes for p in s]
    return min(xs), max(xs)


def composed(glyphs, char):
    """A letter with its accents on it, or None."""
    parts = unicodedata.normalize("NFD", char)
    if len(parts) < 2 or parts[0] not in glyphs or any(ord(m) not in MARKS for m in parts[1:]):
        return None
    width, strokes = glyphs[parts[0]]
    if parts[0] in "ij" and any(ord(m) < 0x320 for m in parts[1:]):
        strokes = [s for s in strokes if min(p[1] for p in s) < 14.5]  # without its dot
    left, right = box(strokes)
    out = list(strokes)
    for mark in parts[1:]:
        low = ord(mark) >= 0x320
        up = 0 if low else (7 if parts[0].isupper() or parts[0] in "bdhklft" else 0)
        middle = (left + right) / 2 if not (low and ord(mark) == 0x328) else right - 3
        out += [[(x + middle, y + up) for x, y in s] for s in MARKS[ord(mark)]]
    return width, out


def others(g):
    """Letters that are no letter with an accent."""
    w, o = g["o"]
    yield "ø", (w, o + [[(box(o)[0] - 1, -2), (box(o)[1] + 1, 16)]])
    w, o = g["O"]
    yield "Ø", (w, o + [[(box(o)[0], -2), (box(o)[1], 23)]])
    w, s = g["l"]
    yield "ł", (w, s + [[(box(s)[0] - 3, 8), (box(s)[1] + 3, 13)]])
    w, s = g["L"]
    yield "Ł", (w, s + [[(box(s)[0] - 3, 7), (box(s)[0] + 6, 13)]])
    w, s = g["D"]
    yield "Đ", (w, s + [[(box(s)[0] - 3, 10.5), (box(s)[0] + 5, 10.5)]])
    w, s = g["d"]
    yield "đ", (w, s + [[(box(s)[1] - 5, 17.5), (box(s)[1] + 3, 17.5)]])
    wa, a = g["a"]
    we, e = g["e"]
    shift = box(a)[1] - box(e)[0]
    yield "æ", (shift + we, a + [[(x + shift, y) for x, y in s] for s in e])
    shift = box(o2 := g["o"][1])[1] - box(e)[0]
    yield "œ", (shift + we, o2 + [[(x + shift, y) for x, y in s] for s in e])
    yield "Æ", (24, [[(2, 0), (13, 21)], [(13, 21), (13, 0)], [(6.2, 8), (13, 8)], [(13, 21), (22, 21)], [(13, 11), (19, 11)], [(13, 0), (22, 0)]])
    big = arc(9.5, 10.5, 10.5)
    half = [(x * 0.8 + 1.9, y) for x, y in big[8:]]
    yield "Œ", (25, [[(14, 21)] + [(x, y) for x, y in reversed(half)] + [(14, 0)], [(14, 21), (14, 0)], [(14, 21), (23, 21)], [(14, 11), (20, 11)], [(14, 0), (23, 0)]])
    yield "ß", (19, [[(4, 0), (4, 16), (5, 19), (7, 20.6), (9, 21), (11.5, 20.4), (13, 18.5), (13, 16), (12, 13.8), (9.5, 12)], [(9.5, 12), (12.5, 11), (14.6, 8.8), (15.2, 6), (14.4, 2.8), (12, 0.6), (9.5, 0)]])
    yield "ẞ", (21, [[(4, 0), (4, 15), (5.5, 19), (9, 21), (16, 21), (10, 13)], [(10, 13), (13.5, 12.2), (16, 10), (16.8, 6.5), (15.6, 2.8), (12.5, 0.4), (9, 0)]])
    yield "€", (21, [[(18, 18), (16, 20.2), (13, 21), (10, 20.2), (7.5, 17.8), (6, 14), (5.6, 10.5), (6, 7), (7.5, 3.2), (10, 0.8), (13, 0), (16, 0.8), (18, 3)], [(3, 12.5), (14, 12.5)], [(3, 8.5), (14, 8.5)]])
    yield "°", (14, [arc(7, 17.5, 3.5)])
    yield "–", (20, [[(3, 9), (17, 9)]])
    yield "—", (28, [[(3, 9), (25, 9)]])
    yield "·", (10, [arc(5, 9, 0.8, 8)])
    yield "×", (22, [[(5, 2), (17, 14)], [(17, 2), (5, 14)]])
    yield "’", (10, g["'"][1] and [[(5.5, 21), (5.5, 18), (4, 15)]])
    yield "‘", (10, [[(5.5, 21), (4.3, 18), (4.3, 15)]])
    yield "“", (16, [[(5.5, 21), (4.3, 18), (4.3, 15)], [(10.5, 21), (9.3, 18), (9.3, 15)]])
    yield "”", (16, [[(5.5, 21), (5.5, 18), (4, 15)], [(10.5, 21), (10.5, 18), (9, 15)]])
    yield "„", (16, [[(5.5, 2), (5.5, -1), (4, -4)], [(10.5, 2), (10.5, -1), (9, -4)]])
    yield "«", (18, [[(8, 14), (4, 8), (8, 2)], [(14, 14), (10, 8), (14, 2)]])
    yield "»", (18, [[(4, 14), (8, 8), (4, 2)], [(10, 14), (14, 8), (10, 2)]])
    yield "¡", (10, [[(5, 14), (5, 0)], arc(5, 19.5, 0.8, 8)])
    yield "ı", (8, [[(4, 14), (4, 0)]])
    yield "…", (24, [arc(5, 0.8, 0.8, 8), arc(12, 0.8, 0.8, 8), arc(19, 0.8, 0.8, 8)])
    w, q = g["?"]
    yield "¿", (w, [[(w - x, 20 - y) for x, y in s] for s in q])
    yield "♥", (24, [[(12, 1), (3.5, 10), (2, 14), (3, 17.5), (6, 19.5), (9, 19), (12, 15.5), (15, 19), (18, 19.5), (21, 17.5), (22, 14), (20.5, 10), (12, 1)]])
    yield "★", (24, [[(12 + 10 * (1 if k % 2 == 0 else 0.4) * math.sin(math.pi * k / 5), 10 + 10 * (1 if k % 2 == 0 else 0.4) * math.cos(math.pi * k / 5)) for k in range(11)]])


def unit(a, b):
    d = math.hypot(b[0] - a[0], b[1] - a[1]) or 1
    return ((b[0] - a[0]) / d, (b[1] - a[1]) / d)


def segments(points):
    """Cubic pieces through the points: Catmull-Rom where a stroke turns little by little, straight beside corners."""
    closed = len(points) > 3 and points[0] == points[-1]
    n = len(points)

    def tangent(k):
        if k in (0, n - 1):
            if not closed:
                return None
            before, after = points[n - 2], points[1]
        else:
            before, after = points[k - 1], points[k + 1]
        a, b = unit(before, points[k]), unit(points[k], after)
        if a[0] * b[0] + a[1] * b[1] < CORNER:
            return None
        return ((after[0] - before[0]) / 6, (after[1] - before[1]) / 6)

    for k in range(n - 1):
        p, q, tp, tq = points[k], points[k + 1], tangent(k), tangent(k + 1)
        length = math.hypot(q[0] - p[0], q[1] - p[1])

        def fitted(t):
            d = math.hypot(*t) or 1
            return (t[0] * min(1, length / 3 / d), t[1] * min(1, length / 3 / d))

        if tp is None and tq is None:
            yield p, None, None, q
            continue
        third = ((q[0] - p[0]) / 3, (q[1] - p[1]) / 3)
        a = fitted(tp) if tp else third
        b = fitted(tq) if tq else third
        yield p, (p[0] + a[0], p[1] + a[1]), (q[0] - b[0], q[1] - b[1]), q


def char_string(width, strokes):
    pen = T2CharStringPen(round(width * UNIT), None)
    put = lambda p: (round(p[0] * UNIT), round(p[1] * UNIT))
    for stroke in strokes:
        if len(stroke) == 1:
            stroke = [stroke[0], (stroke[0][0] + 0.3, stroke[0][1])]
        pieces = list(segments(stroke))
        pen.moveTo(put(stroke[0]))
        for p, a, b, q in pieces:
            pen.curveTo(put(a), put(b), put(q)) if a else pen.lineTo(put(q))
        for p, a, b, q in reversed(pieces):
            pen.curveTo(put(b), put(a), put(p)) if a else pen.lineTo(put(p))
        pen.closePath()
    # Made smaller, a line there and back would be none.
    return pen.getCharString(optimize=False)


def main():
    glyphs = {chr(32 + k): g for k, g in enumerate(read_jhf(SOURCE)) if 32 + k < 127}
    glyphs[" "] = (12, [])
    for char, drawn in list(others(glyphs)):
        glyphs[char] = drawn
    for code in list(range(0xC0, 0x180)) + list(range(0x1E00, 0x1F00)) + [0x218, 0x219, 0x21A, 0x21B]:
        made = composed(glyphs, chr(code))
        if made and chr(code) not in glyphs:
            glyphs[chr(code)] = made
    glyphs["\u00a0"] = glyphs[" "]
    names = [".notdef"] + ["u%04X" % ord(c) for c in glyphs]
    strings = {".notdef": char_string(16, [[(3, 0), (13, 0), (13, 21), (3, 21), (3, 0)]])}
    widths = {".notdef": (round(16 * UNIT), 0)}
    for char, (width, strokes) in glyphs.items():
        name = "u%04X" % ord(char)
        strings[name] = char_string(width, strokes)
        widths[name] = (round(width * UNIT), 0)
    fb = FontBuilder(1000, isTTF=False)
    fb.setupGlyphOrder(names)
    fb.setupCharacterMap({ord(c): "u%04X" % ord(c) for c in glyphs})
    notice = (
        "The Hershey Fonts were originally created by Dr. A. V. Hershey while working at the U. S. National Bureau of Standards. "
        "Curves, accents and further letters by Hard Line."
    )
    family = "Hard Line Engraver"
    fb.setupCFF("HardLineEngraver", {"FullName": family}, strings, {})
    fb.setupHorizontalMetrics(widths)
    fb.setupHorizontalHeader(ascent=round(30 * UNIT), descent=round(-8 * UNIT))
    fb.setupNameTable({"familyName": family, "styleName": "Regular", "copyright": notice, "fullName": family, "psName": "HardLineEngraver"})
    fb.setupOS2(sTypoAscender=round(30 * UNIT), sTypoDescender=round(-8 * UNIT), sCapHeight=round(21 * UNIT), sxHeight=round(14 * UNIT), fsType=0)
    fb.setupPost()
    fb.font["head"].created = fb.font["head"].modified = 3_800_000_000
    fb.font.recalcTimestamp = False
    fb.save(sys.argv[1] if len(sys.argv) > 1 else os.path.join(HERE, "files/engraver.otf"))
    print(len(glyphs), "letters")


main()
