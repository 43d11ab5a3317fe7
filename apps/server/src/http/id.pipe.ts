import { Injectable, type PipeTransform } from "@nestjs/common";
import { ProblemException } from "./problems";

/** An id in an address: digits only. */
@Injectable()
export class IdPipe implements PipeTransform<string, string> {
  transform(value: string): string {
    if (!/^\d{1,18}$/.test(value))
      throw new ProblemException(400, "Not valid", `id is ${JSON.stringify(value)}; allowed: digits`);
    return value;
  }
}
