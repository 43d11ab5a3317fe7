import {
  type CurveBody,
  type MaterialBody,
  type PageBox,
  type PageLayer,
  type RunPlanView,
  type RunState,
  type Role,
  type RunView,
  type Scope,
  type TicketFields,
  type TicketState,
  type WorkKind,
} from "@hardline/contract";
import { type Check } from "@hardline/core/inspect/check";
import { type Wish } from "@hardline/core/machine/control";
import { type Machine } from "@hardline/core/machine/machine";
import { type RunWish } from "@hardline/core/machine/wish";
import { type ArtworkReading } from "@hardline/core/reading/reading";
import { type RouteChange } from "@hardline/core/route/changes";
import { type Placing } from "@hardline/core/sheet/arrangement";
import { type SheetBody } from "@hardline/core/sheet/sheetFile";
import { type ColumnType, type Generated, type JSONColumnType } from "kysely";

type Stamp = ColumnType<Date, Date | undefined, Date>; // set by the database
type Id = Generated<string>; // bigserial, which arrives as text

/** Who did something; neither where Hard Line did it by itself. */
export interface Doer {
  personId: string | null;
  tokenId: string | null;
}

export interface Schema {
  people: {
    id: Id;
    name: string;
    role: Role;
    /** argon2id; null until the person has joined. */
    password: string | null;
    pin: string | null;
    /** Of the second factor, and the last step of time whose code was taken. */
    timeKey: string | null;
    timeStep: Generated<number>;
    leftAt: Date | null;
    createdAt: Stamp;
  };
  /** As express-session keeps them. */
  sessions: { sid: string; sess: JSONColumnType<{ personId: string; by: "password" | "pin" }>; expire: Date };
  invitations: { codeSha256: string; personId: string; endsAt: Date };
  tokens: {
    id: Id;
    name: string;
    scopes: JSONColumnType<Scope[]>;
    sha256: string;
    madeBy: string;
    usedAt: Date | null;
    removedAt: Date | null;
    createdAt: Stamp;
  };
  /** Tries at passwords and codes, of an account or from an address. */
  tries: { key: string; count: number; since: Stamp };
  /** What the program's servers must know alike. */
  secrets: { name: string; value: string };
  /** A customer's yes to a revision, and who wrote it down. */
  approvals: Partial<Doer> & {
    id: Id;
    ticketId: string;
    routeId: string;
    revision: number;
    who: string;
    createdAt: Stamp;
  };
  comments: Partial<Doer> & {
    id: Id;
    ticketId: string;
    routeId: string | null;
    text: string;
    atX: number | null;
    atY: number | null;
    doneAt: Date | null;
    doneBy: string | null;
    createdAt: Stamp;
  };
  /** Who is at a ticket; one whose beat is old has gone without a word. */
  presences: { id: Id; ticketId: string; routeId: string | null; personId: string; beatAt: Stamp };
  customers: {
    id: Id;
    name: string;
    email: Generated<string>;
    phone: Generated<string>;
    address: Generated<string>;
    note: Generated<string>;
    createdAt: Stamp;
  };
  /** What was done in the shop, besides revisions of routes: those say themselves what they are. */
  journal: Partial<Doer> & {
    id: Id;
    at: Stamp;
    words: string;
    subject: string | null;
    ticketId: string | null;
    routeId: string | null;
    revision: number | null;
    runId: string | null;
    customerId: string | null;
  };
  blobs: { sha256: string; bytes: number; mediaType: string; createdAt: Stamp };
  blobChunks: { sha256: string; seq: number; data: Buffer };
  artworks: {
    id: Id;
    /** Of the file, and what of it is taken where that is not all: "…#page=2". */
    sha256: string;
    fileSha256: string;
    page: Generated<number>;
    box: Generated<PageBox>;
    pages: Generated<number>;
    boxes: JSONColumnType<PageBox[]>;
    layers: JSONColumnType<PageLayer[]>;
    widthMm: number | null;
    name: string;
    kind: string;
    mediaType: string;
    bytes: number;
    width: number;
    height: number;
    vector: boolean;
    notes: JSONColumnType<string[]>;
    /** The picture decoded once, as a lossless PNG; null for artwork made of shapes. */
    pixelsSha256: string | null;
    thumbnailSha256: string;
    /** What was measured of it on arrival; null for one taken in before that was done. */
    reading: JSONColumnType<ArtworkReading> | null;
    createdAt: Stamp;
  };
  /** The shop's own fonts; one that is retired is still there for routes that use it. */
  fonts: {
    sha256: string;
    name: string;
    letters: number;
    isLines: boolean;
    bytes: number;
    retiredAt: ColumnType<Date | null, Date | null | undefined, Date | null>;
    createdAt: Stamp;
  };
  /** Photographs of things, and the artworks that they were taken in as; routes go on naming them. */
  photos: { sha256: string; artworkId: string; customerId: string | null; createdAt: Stamp };
  /** The shop's own things, on photographs. */
  things: { id: Id; name: string; body: JSONColumnType<object>; createdAt: Stamp };
  /** Places for prints that the shop uses often. */
  places: { id: Id; name: string; area: string; xMm: number; yMm: number; createdAt: Stamp };
  /** Pictures halved so many times, for a first look. */
  artworkHalves: { artworkId: string; times: number; sha256: string };
  /** Artwork made of shapes, as drawn for a width that was asked for. */
  drawings: { artworkId: string; width: number; sha256: string; usedAt: Stamp };
  tickets: TicketFields & {
    id: Id;
    number: Generated<number>;
    artworkId: string;
    archivedAt: Date | null;
    createdAt: Stamp;
    /** Found by the customer's name, or made of it, by the database (migration 018). */
    customerId: Generated<string | null>;
    /** The one that it orders again. */
    orderedAgain: string | null;
    /** These four are kept by the database (migration 010). */
    state: Generated<TicketState>;
    looks: Generated<number>;
    stops: Generated<number>;
    words: Generated<string>;
  };
  routes: {
    id: Id;
    ticketId: string;
    /** Counts every change of `revision`; changes name the version they were made on. */
    version: Generated<number>;
    revision: number;
    createdAt: Stamp;
  };
  routeRevisions: {
    routeId: string;
    revision: number;
    /** The revision it was made from; undo goes there. */
    parent: number | null;
    /** The route; parts of it that other revisions share are only named (see parts.ts). */
    body: JSONColumnType<object>;
    looks: number | null;
    stops: number | null;
    thumbnailSha256: string | null;
    /** What somebody called it. */
    name: string | null;
    /** What changed, in words; null of one that was made before that was kept. */
    changes: JSONColumnType<RouteChange[]> | null;
    /** The revision that it brought back. */
    broughtBack: number | null;
    createdAt: Stamp;
  } & Partial<Doer>;
  /** Parts of routes by the hash of what they say. */
  parts: { sha256: string; body: JSONColumnType<object> };
  /** What the shop knows of each material, by the name that route files use. */
  materials: {
    key: string;
    version: Generated<number>;
    body: JSONColumnType<MaterialBody>;
    createdAt: Stamp;
  };
  houseRoutes: { id: Id; name: string; body: JSONColumnType<object>; createdAt: Stamp };
  /** Test strips that were kept, each as one bitmap. */
  strips: {
    id: Id;
    routeId: string;
    revision: number;
    title: string;
    labels: JSONColumnType<string[]>;
    pictureSha256: string;
    createdAt: Stamp;
  };
  /** Large files that have arrived and are being taken in. */
  arrivals: {
    id: Id;
    sha256: string;
    name: string;
    state: "waiting" | "running" | "done" | "failed";
    progress: Generated<number>;
    doing: Generated<string>;
    error: string | null;
    artworkId: string | null;
    attempts: Generated<number>;
    beatAt: Stamp;
    createdAt: Stamp;
  };
  /** What workers make. */
  renders: {
    id: Id;
    kind: Generated<WorkKind>;
    /** What is made from; null for what is not of one route. */
    routeId: string | null;
    revision: number | null;
    /** What is wished, for whatever is no hand-over. */
    wish: JSONColumnType<object> | null;
    /** What it came to, besides files. */
    outcome: JSONColumnType<object> | null;
    batchId: string | null;
    endedAt: Date | null;
    state: "waiting" | "running" | "done" | "failed" | "stopped";
    progress: Generated<number>;
    doing: Generated<string>;
    error: string | null;
    dotsSha256: string | null;
    files: JSONColumnType<StoredFile[]>;
    attempts: Generated<number>;
    /** Sign of life of the worker that has it. */
    beatAt: Date | null;
    createdAt: Stamp;
  } & Partial<Doer>;
  sheets: {
    id: Id;
    name: string;
    version: Generated<number>;
    body: JSONColumnType<SheetBody>;
    placings: JSONColumnType<Placing[], string | undefined, string>;
    /** Of each route, the revision whose outline was arranged. */
    revisions: JSONColumnType<Record<string, number>, string | undefined, string>;
    /** As they were found when it was last saved, or looked at. */
    checks: JSONColumnType<Check[], string | undefined, string>;
    /** What the checks were made of; another, and they are made anew. */
    checkedAs: string | null;
    createdAt: Stamp;
  };
  batches: {
    id: Id;
    name: string;
    route: JSONColumnType<object>;
    stoppedAt: Date | null;
    createdAt: Stamp;
  };
  machines: {
    key: string;
    version: Generated<number>;
    body: JSONColumnType<Machine>;
    host: string;
    /** Null while it is the stand-in beside this program. */
    port: number | null;
    floor: number | null;
    /** The shop has it no more; its runs stay. */
    removedAt: Date | null;
    createdAt: Stamp;
  };
  runs: {
    id: Id;
    machineKey: string;
    name: string;
    ticketId: string | null;
    routeId: string | null;
    revision: number | null;
    sheetId: string | null;
    sheet: number | null;
    wish: JSONColumnType<RunWish>;
    state: RunState;
    progress: Generated<number>;
    /** Runs of a machine wait in the order of this. */
    place: Generated<number>;
    plan: JSONColumnType<RunPlanView> | null;
    programSha256: string | null;
    /** The program as it was sent, where the camera had it made anew. */
    sentSha256: string | null;
    /** What the camera needs to make it anew: the lines, and the marks. */
    job: JSONColumnType<object> | null;
    executed: Generated<number>;
    /** What people wish of it while it is at work, the number of that wish, and of the last that was seen to. */
    wanted: Wish | null;
    wantedNo: Generated<number>;
    heeded: Generated<number>;
    seconds: number | null;
    made: JSONColumnType<{ equal: boolean; twice: number }> | null;
    camera: JSONColumnType<NonNullable<RunView["camera"]>> | null;
    burnedSha256: string | null;
    error: string | null;
    startedAt: Date | null;
    endedAt: Date | null;
    createdAt: Stamp;
  } & Partial<Doer>;
  /** How a material answers, by the wedges that were measured: never altered, each a version of its own. */
  curves: {
    materialKey: string;
    version: number;
    body: JSONColumnType<CurveBody>;
    createdAt: Stamp;
  } & Partial<Doer>;
}

export interface StoredFile {
  readonly name: string;
  readonly mediaType: string;
  readonly bytes: number;
  readonly sha256: string;
}
