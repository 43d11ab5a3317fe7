import { z } from "zod";
import { routeErrorOf } from "../settings/errors";
import { type MachineKind } from "./kinds/kind";
import { MACHINE_KINDS } from "./kinds";
import { COMMON_NUMBERS, type ProfileNumber } from "./profile";

/** What a program's file is called at its end. */
export const programExtension = (mediaType: string): string =>
  MACHINE_KINDS.find((kind) => kind.program.mediaType === mediaType)?.program.extension ?? "txt";

type Kinds = typeof MACHINE_KINDS;
type ProfileOf<K> = K extends MachineKind<infer P> ? P : never;

/** A machine of the shop: what it reaches, how fast it is, what it can do. Lengths in mm. */
export type Machine = ProfileOf<Kinds[number]>;

const KINDS = new Map<string, MachineKind<Machine>>(
  MACHINE_KINDS.map((kind) => [kind.kind, kind as unknown as MachineKind<Machine>]),
);

/** What can be done with machines of a machine's kind. */
export const machineKindOf = ({ kind }: Pick<Machine, "kind">): MachineKind<Machine> => KINDS.get(kind)!;

/** As far as the union needs to know them. */
type Profiles = [z.ZodObject<{ kind: z.ZodLiteral<string> }>];

export const machineSchema = z.discriminatedUnion(
  "kind",
  MACHINE_KINDS.map((kind) => kind.profile) as unknown as Profiles,
  {
    error: (issue) =>
      issue.code === "invalid_union" ? [...KINDS.keys()].map((kind) => `"${kind}"`).join(", ") : undefined,
  },
) as unknown as z.ZodType<Machine>;

/** @throws RouteError that names the setting, the value and what is allowed */
export function readMachine(json: unknown): Machine {
  const read = machineSchema.safeParse(json);
  if (!read.success) throw routeErrorOf("machine", read.error, json);
  return read.data;
}

/** Machines that a shop starts with, one of each kind; each runs as a stand-in beside the program. */
export const USUAL_MACHINES: readonly Machine[] = MACHINE_KINDS.map(({ usual }) =>
  machineSchema.parse(usual),
);

/** A number of a machine's profile with the range that its schema gives it. */
export interface RangedNumber extends ProfileNumber {
  readonly min: number;
  readonly max: number;
}

/** The numbers of machines of a kind that can be set, in their order. */
export function profileNumbers({ kind }: Pick<Machine, "kind">): RangedNumber[] {
  const { profile, numbers } = machineKindOf({ kind });
  return [...COMMON_NUMBERS, ...numbers].map((one) => {
    const found = one.of.split(".").reduce<z.ZodType>((at, name) => bare(at).shape[name], profile);
    const { minValue, maxValue } = bare(found) as unknown as z.ZodNumber;
    return { ...one, min: minValue ?? -Infinity, max: maxValue ?? Infinity };
  });
}

/** A schema without the default that is put before it. */
const bare = (schema: z.ZodType): z.ZodObject =>
  (schema instanceof z.ZodDefault ? schema.unwrap() : schema) as z.ZodObject;
