/** A job that a machine cannot do as it is: what of it, the value it has, and what the machine takes. */
export class MachineError extends Error {
  constructor(
    readonly what: string,
    readonly value: unknown,
    readonly allowed: string,
  ) {
    super(`${what} is ${String(value)}; ${allowed}`);
    this.name = "MachineError";
  }
}
