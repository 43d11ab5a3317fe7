import {
  NewApproval,
  NewComment,
  OnVersion,
  RevisionName,
  type ApprovalView,
  type CommentView,
  type OldRouteView,
  type RevisionsView,
  type RouteView,
} from "@hardline/contract";
import { STAGES } from "@hardline/core/stage/stages";
import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Param,
  Post,
  Put,
  Query,
  Res,
  Sse,
  type MessageEvent,
} from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Response } from "express";
import { pipeline } from "node:stream/promises";
import { map, type Observable } from "rxjs";
import { BlobStore } from "../blobs/blob.store";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { ProblemException } from "../http/problems";
import { CommentsService } from "./comments.service";
import { HistoryService } from "./history.service";
import { WatchService } from "./watch.service";

const digits = (name: string, value: string | undefined): string | undefined => {
  if (value !== undefined && !/^\d{1,9}$/.test(value))
    throw new ProblemException(400, "Not valid", `${name} is ${JSON.stringify(value)}; allowed: digits`);
  return value;
};
const numberIn = (name: string, value: string | undefined): number | undefined =>
  value === undefined ? undefined : Number(digits(name, value));

function stageIn(value: string | undefined): string | undefined {
  const known = ["route", ...STAGES.map((s) => s.id)];
  if (value !== undefined && !known.includes(value))
    throw new ProblemException(
      400,
      "Not valid",
      `stage is ${JSON.stringify(value)}; allowed: ${known.join(", ")}`,
    );
  return value;
}

@ApiTags("history")
@Controller("api")
export class HistoryController {
  constructor(
    @Inject(HistoryService) private readonly history: HistoryService,
    @Inject(CommentsService) private readonly comments: CommentsService,
    @Inject(WatchService) private readonly watching: WatchService,
    @Inject(BlobStore) private readonly blobs: BlobStore,
  ) {}

  @Get("routes/:id/revisions")
  @ApiOperation({
    summary:
      "Revisions of a route, the latest first: of a `person`, with a change of a `stage`, `before` one",
  })
  list(
    @Param("id", IdPipe) id: string,
    @Query("person") person?: string,
    @Query("stage") stage?: string,
    @Query("before") before?: string,
  ): Promise<RevisionsView> {
    return this.history.list(id, {
      person: digits("person", person),
      stage: stageIn(stage),
      before: numberIn("before", before),
    });
  }

  @Get("routes/:id/revisions/:revision")
  old(@Param("id", IdPipe) id: string, @Param("revision") revision: string): Promise<OldRouteView> {
    return this.history.old(id, numberIn("revision", revision)!);
  }

  @Get("routes/:id/revisions/:revision/thumbnail")
  async thumbnail(
    @Param("id", IdPipe) id: string,
    @Param("revision") revision: string,
    @Res() response: Response,
  ): Promise<void> {
    const sha256 = await this.history.thumbnail(id, numberIn("revision", revision)!);
    response.set({ "Content-Type": "image/png", "Cache-Control": "private, max-age=3600" });
    await pipeline(this.blobs.stream(sha256), response);
  }

  @Put("routes/:id/revisions/:revision/name")
  @HttpCode(204)
  @bodySchema("RevisionName")
  @ApiOperation({ summary: "Call a revision something; empty: nothing any more" })
  name(
    @Param("id", IdPipe) id: string,
    @Param("revision") revision: string,
    @Body() { name }: RevisionName,
  ): Promise<void> {
    return this.history.name(id, numberIn("revision", revision)!, name);
  }

  @Post("routes/:id/revisions/:revision/bring-back")
  @HttpCode(200)
  @bodySchema("OnVersion")
  @ApiOperation({
    summary: "A new revision that says what an old one said; 409 if the route changed meanwhile",
  })
  bringBack(
    @Param("id", IdPipe) id: string,
    @Param("revision") revision: string,
    @Body() { version }: OnVersion,
  ): Promise<RouteView> {
    return this.history.bringBack(id, numberIn("revision", revision)!, version);
  }

  @Post("routes/:id/revisions/:revision/approvals")
  @bodySchema("NewApproval")
  @ApiOperation({ summary: "Write down that the customer said yes to a revision" })
  approve(
    @Param("id", IdPipe) id: string,
    @Param("revision") revision: string,
    @Body() { by }: NewApproval,
  ): Promise<ApprovalView> {
    return this.history.approve(id, numberIn("revision", revision)!, by);
  }

  @Sse("tickets/:id/watch")
  @ApiOperation({
    summary:
      "Who is at a ticket, where its routes stand, and how many comments are open, each time it changes; whoever listens is seen there (server-sent events)",
  })
  watch(@Param("id", IdPipe) id: string, @Query("route") route?: string): Observable<MessageEvent> {
    return this.watching.watch(id, digits("route", route) ?? null).pipe(map((data) => ({ data })));
  }

  @Get("tickets/:id/comments")
  listComments(@Param("id", IdPipe) id: string): Promise<CommentView[]> {
    return this.comments.list(id);
  }

  @Post("tickets/:id/comments")
  @bodySchema("NewComment")
  @ApiOperation({ summary: "A comment for colleagues, with a place on the artwork if it has one" })
  comment(@Param("id", IdPipe) id: string, @Body() comment: NewComment): Promise<CommentView> {
    return this.comments.add(id, comment);
  }

  @Post("comments/:id/done")
  @HttpCode(200)
  @ApiOperation({ summary: "It is seen to" })
  done(@Param("id", IdPipe) id: string): Promise<{ ticketId: string }> {
    return this.comments.done(id, true);
  }

  @Delete("comments/:id/done")
  @HttpCode(200)
  @ApiOperation({ summary: "It is not seen to after all" })
  undone(@Param("id", IdPipe) id: string): Promise<{ ticketId: string }> {
    return this.comments.done(id, false);
  }

  @Delete("comments/:id")
  @HttpCode(200)
  @ApiOperation({ summary: "Take one's own comment away" })
  remove(@Param("id", IdPipe) id: string): Promise<{ ticketId: string }> {
    return this.comments.remove(id);
  }
}
