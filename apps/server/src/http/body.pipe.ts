import { type ArgumentMetadata, Injectable, type PipeTransform } from "@nestjs/common";
import { validate } from "class-validator";
import { ProblemException, validationProblem } from "./problems";

/**
 * A body as the class that the contract has for it: each field looked at by its own rules, none that the class does not
 * have. Only the fields themselves are put on it, not what is in them: a route or a sheet may hold hundreds of thousands of
 * numbers, and its own reader walks them once.
 */
@Injectable()
export class BodyPipe implements PipeTransform {
  async transform(value: unknown, { type, metatype }: ArgumentMetadata): Promise<unknown> {
    if (type === "query" || type === "param")
      return typeof value === "object" && value ? String(Object.values(value)) : value;
    if (type !== "body" || !metatype || metatype === Object) return value;
    const given: unknown = value ?? {};
    if (typeof given !== "object" || given === null || Array.isArray(given))
      throw new ProblemException(400, "Not valid", "The body is not an object with fields.");
    const body = new metatype() as Record<string, unknown>;
    for (const [name, field] of Object.entries(given)) {
      // What every object has (`constructor`, `__proto__`) is no field: put on the body it would take the place of its class.
      if (name in Object.prototype) throw new ProblemException(400, "Not valid", `there is no field ${name}`);
      body[name] = field;
    }
    const errors = await validate(body, {
      whitelist: true,
      forbidNonWhitelisted: true,
      forbidUnknownValues: true,
    });
    if (errors.length > 0) throw validationProblem(errors);
    return body;
  }
}
