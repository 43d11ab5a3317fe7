import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsIn,
  IsString,
  Matches,
  MaxLength,
  MinLength,
} from "class-validator";
import { MayBeLeftOut, NAME_RULE, PLAIN_NAME } from "./isRead";
import { LEAST_PASSWORD, MOST_PASSWORD, ROLES, SCOPES, type Right, type Role, type Scope } from "./rights";

const MOST_NAME = 80;

/** A name begins and ends with something to be seen. */
const IsName = (): PropertyDecorator => (target, key) => {
  IsString()(target, key);
  MinLength(1)(target, key);
  MaxLength(MOST_NAME)(target, key);
  Matches(PLAIN_NAME, { message: NAME_RULE })(target, key);
};

/** A password as somebody types it; what a new one must be is said where it is set. */
const IsTyped = (): PropertyDecorator => (target, key) => {
  IsString()(target, key);
  MaxLength(MOST_PASSWORD)(target, key);
};

const IsNewPassword = (): PropertyDecorator => (target, key) => {
  MinLength(LEAST_PASSWORD)(target, key);
  IsTyped()(target, key);
};

const IsPin = (): PropertyDecorator => Matches(/^\d{4,8}$/, { message: "pin must be four to eight digits" });
const IsTimeCode = (): PropertyDecorator => Matches(/^\d{6}$/, { message: "code must be six digits" });

export class SignIn {
  @IsString()
  @MaxLength(MOST_NAME)
  name!: string;

  @IsTyped()
  password!: string;

  /** Of the second factor, where the person has one. */
  @MayBeLeftOut()
  @IsTimeCode()
  code?: string;
}

/** Another person at a browser where somebody is signed in. */
export class ChangePerson {
  @IsString()
  @Matches(/^\d{1,18}$/)
  personId!: string;

  @IsPin()
  pin!: string;
}

/** The shop's first person. */
export class FirstOwner {
  /** That the program printed where it was started. */
  @IsString()
  @MaxLength(40)
  code!: string;

  @IsName()
  name!: string;

  @IsNewPassword()
  password!: string;
}

export class NewPerson {
  @IsName()
  name!: string;

  @IsIn(ROLES)
  role!: Role;
}

export class PersonChange {
  @MayBeLeftOut()
  @IsName()
  name?: string;

  @MayBeLeftOut()
  @IsIn(ROLES)
  role?: Role;
}

/** The password of one who was invited, or whose old one is lost. */
export class JoinWith {
  @IsNewPassword()
  password!: string;
}

export class NewPassword {
  @IsTyped()
  old!: string;

  @IsNewPassword()
  password!: string;
}

export class NewPin {
  @IsTyped()
  password!: string;

  /** Left out: no PIN any more. */
  @MayBeLeftOut()
  @IsPin()
  pin?: string;
}

export class ConfirmTimeCode {
  @IsTimeCode()
  code!: string;
}

export class WithPassword {
  @IsTyped()
  password!: string;
}

export class NewToken {
  @IsName()
  name!: string;

  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(SCOPES.length)
  @ArrayUnique()
  @IsIn(SCOPES, { each: true })
  scopes!: Scope[];
}

/** A person as everybody in the shop sees one. */
export interface PersonView {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
  /** Has a password; before that one was invited. */
  readonly joined: boolean;
  readonly hasPin: boolean;
  readonly secondFactor: boolean;
  /** Is signed in at so many browsers. */
  readonly sessions: number;
  readonly createdAt: string;
}

/** What an invitation, or the way to a new password, is opened by: told once. */
export interface InvitationView {
  readonly person: PersonView;
  readonly code: string;
  readonly endsAt: string;
}

/** Who is at this browser. */
export interface SessionView {
  readonly person: {
    readonly id: string;
    readonly name: string;
    readonly role: Role;
    readonly hasPin: boolean;
    readonly secondFactor: boolean;
  } | null;
  readonly rights: readonly Right[];
  /** How one came in: the demo's operator comes in by himself. */
  readonly by: "password" | "pin" | "demo" | "token" | null;
  /** Nobody is there yet: the first person is its owner. */
  readonly first: boolean;
}

export interface TokenView {
  readonly id: string;
  readonly name: string;
  readonly scopes: readonly Scope[];
  readonly madeBy: string;
  readonly usedAt: string | null;
  readonly createdAt: string;
}

/** A new token, and what a program sends: told once. */
export interface NewTokenView extends TokenView {
  readonly secret: string;
}

/** What is scanned to set a second factor up, and what is typed where nothing can be scanned. */
export interface TimeKeyView {
  readonly key: string;
  /** SVG. */
  readonly picture: string;
}

/** Who did something: a person, a program with a token, or Hard Line by itself. */
export interface ByView {
  readonly id: string | null;
  readonly name: string;
}
