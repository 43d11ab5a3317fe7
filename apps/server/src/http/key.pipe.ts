import { Injectable, type PipeTransform } from "@nestjs/common";
import { ProblemException } from "./problems";

/** The key of a font or a photograph in an address: a word, or 64 digits of a SHA-256. */
@Injectable()
export class KeyPipe implements PipeTransform<string, string> {
  transform(value: string): string {
    if (!/^([a-z][a-z-]{1,30}|[0-9a-f]{64})$/.test(value))
      throw new ProblemException(
        400,
        "Not valid",
        `key is ${JSON.stringify(value)}; allowed: a word, or the SHA-256 of a file`,
      );
    return value;
  }
}
