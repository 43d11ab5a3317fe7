import { LEAST_PASSWORD } from "@hardline/contract";
import { hash, verify } from "@node-rs/argon2";
import { Injectable } from "@nestjs/common";
import { randomBytes } from "node:crypto";
import { ProblemException } from "../http/problems";

/** @see OWASP, Password Storage Cheat Sheet: argon2id with 19 MiB, two rounds, one lane */
const COST = { memoryCost: 19456, timeCost: 2, parallelism: 1 };
/** So many are computed at once; others wait. Each takes memory, and a thread that files are read by too. */
const AT_ONCE = 2;

/** What must not be in a password: everybody would try it. */
const OWN_WORDS = ["hardline", "hard line"];

/** Passwords and PINs: kept as what cannot be turned back (argon2id, RFC 9106). */
@Injectable()
export class Passwords {
  private atWork = 0;
  private readonly waiting: (() => void)[] = [];
  private nobodys: Promise<string> | null = null;

  hash(password: string): Promise<string> {
    return this.inTurn(() => hash(password, COST));
  }

  /**
   * Whether it is the one that was kept. Where none was kept it takes as long, so that nobody learns from the time
   * whether there is such a person.
   */
  async isRight(kept: string | null, given: string): Promise<boolean> {
    this.nobodys ??= this.hash(randomBytes(18).toString("base64"));
    const against = kept ?? (await this.nobodys);
    const same = await this.inTurn(() => verify(against, given));
    return same && kept !== null;
  }

  private async inTurn<T>(act: () => Promise<T>): Promise<T> {
    if (this.atWork >= AT_ONCE) await new Promise<void>((go) => this.waiting.push(go));
    this.atWork++;
    try {
      return await act();
    } finally {
      this.atWork--;
      this.waiting.shift()?.();
    }
  }
}

let common: Promise<ReadonlySet<string>> | null = null;

/** Passwords that many people have, as the lists of stolen ones show: fifty thousand. */
const commonOnes = (): Promise<ReadonlySet<string>> =>
  (common ??= import("@zxcvbn-ts/language-common").then(
    ({ dictionary }) => new Set(dictionary["passwords-common"] as readonly string[]),
  ));

/** @throws ProblemException that says why a new password is not taken */
export async function admitPassword(password: string, name: string): Promise<void> {
  const given = password.toLowerCase();
  const refuse = (why: string): never => {
    throw new ProblemException(400, "Not valid", `This password is not taken: ${why}`);
  };
  if ([...password].length < LEAST_PASSWORD)
    refuse(`it has ${[...password].length} letters; ${LEAST_PASSWORD} or more are asked for.`);
  if (new Set(given).size < 5) refuse("it is made of fewer than five letters.");
  const plain = given.replace(/[\d\W_]+$/, "");
  const all = await commonOnes();
  if (all.has(given) || all.has(plain)) refuse("it is on every list of common passwords.");
  for (const word of [...OWN_WORDS, ...name.toLowerCase().split(/\s+/), name.toLowerCase()])
    if (word.length > 3 && given.replace(word, "").length < 6)
      refuse("it is little more than a name that everybody here knows.");
}

/** @throws ProblemException where a PIN is one that everybody tries first */
export function admitPin(pin: string): void {
  const steps = new Set([...pin].slice(1).map((digit, k) => Number(digit) - Number(pin[k])));
  if (steps.size === 1 && [-1, 0, 1].includes([...steps][0]))
    throw new ProblemException(
      400,
      "Not valid",
      "This PIN is not taken: one digit again and again, and digits in a row, are tried first.",
    );
}
