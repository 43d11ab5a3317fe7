import { fileStem, slug } from "./fileNames";

test.each([
  ["Harbour coasters, set of six", "harbour-coasters-set-of-six"],
  ["Łódź / Häfen", "odz-hafen"],
  ["../../etc", "etc"],
  ["漢字", "unnamed"],
  ["a".repeat(60), "a".repeat(40)],
])("%s becomes %s", (text, wanted) => expect(slug(text)).toBe(wanted));

test("two routes of one name still have names of their own", () => {
  expect(fileStem(1042, "Tag", "Oak", "3", 7)).toBe("1042-tag-oak-3r7");
  expect(fileStem(1042, "Tag", "Oak", "4", 7)).not.toBe(fileStem(1042, "Tag", "Oak", "3", 7));
});
