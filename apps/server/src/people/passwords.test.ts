import type * as Argon2 from "@node-rs/argon2";
import { admitPassword, admitPin, Passwords } from "./passwords";

const mockVerified: string[] = [];
jest.mock("@node-rs/argon2", () => {
  const real = jest.requireActual<typeof Argon2>("@node-rs/argon2");
  return {
    ...real,
    verify: (kept: string, given: string) => {
      mockVerified.push(kept);
      return real.verify(kept, given);
    },
  };
});
beforeEach(() => mockVerified.splice(0));

const costOf = (kept: string): string => kept.split("$").slice(1, 4).join(" ");

test("a password is kept as argon2id, and is right or wrong", async () => {
  const passwords = new Passwords();
  const kept = await passwords.hash("seven herring crates");
  expect(costOf(kept)).toBe("argon2id v=19 m=19456,t=2,p=1");
  expect(await passwords.isRight(kept, "seven herring crates")).toBe(true);
  expect(await passwords.isRight(kept, "seven herring crate")).toBe(false);
  // The same again is kept otherwise: nobody sees that two have the same.
  expect(await passwords.hash("seven herring crates")).not.toBe(kept);
});

test("where there is nobody the very same is computed, so the time tells nothing", async () => {
  const passwords = new Passwords();
  const kept = await passwords.hash("seven herring crates");
  expect(await passwords.isRight(kept, "wrong")).toBe(false);
  expect(await passwords.isRight(null, "wrong")).toBe(false);
  expect(await passwords.isRight(null, "")).toBe(false);
  expect(mockVerified).toHaveLength(3);
  expect(new Set(mockVerified.map(costOf)).size).toBe(1);
});

test("many at once are computed two by two, and all are answered", async () => {
  const passwords = new Passwords();
  const kept = await passwords.hash("seven herring crates");
  const answers = await Promise.all(
    Array.from({ length: 9 }, (_, k) => passwords.isRight(kept, k % 2 ? "wrong" : "seven herring crates")),
  );
  expect(answers).toEqual([true, false, true, false, true, false, true, false, true]);
});

test.each([
  ["too short", /it has 9 letters/],
  ["1234567890", /list of common/],
  ["Password1234!!", /list of common/],
  ["aaaaaaaaaabb", /fewer than five/],
  ["rowan tate 1", /a name that everybody/],
])("%j is not taken", async (password, why) => {
  await expect(admitPassword(password, "Rowan Tate")).rejects.toThrow(why);
});

test("a few words of one's own are taken, in any script", async () => {
  for (const password of ["seven herring crates", "сорок серых гор", "七つの静かな海と古い灯台"])
    await expect(admitPassword(password, "Rowan Tate")).resolves.toBeUndefined();
});

test("PINs that are tried first are not taken", () => {
  for (const pin of ["0000", "1234", "87654321", "999999"])
    expect(() => admitPin(pin)).toThrow(/tried first/);
  for (const pin of ["2907", "1233", "13579"]) expect(() => admitPin(pin)).not.toThrow();
});
