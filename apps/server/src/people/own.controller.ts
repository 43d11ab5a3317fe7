import {
  ConfirmTimeCode,
  NewPassword,
  NewPin,
  WithPassword,
  type SessionView,
  type TimeKeyView,
} from "@hardline/contract";
import { Body, Controller, Delete, HttpCode, Inject, Post, Put, Req } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Request } from "express";
import { bodySchema } from "../http/openApi";
import { PeopleService } from "./people.service";
import { SessionService } from "./session.service";
import { Sessions } from "./sessions";

/** What somebody has to come in by, changed by that one alone. */
@ApiTags("own")
@Controller("api/own")
export class OwnController {
  constructor(
    @Inject(PeopleService) private readonly people: PeopleService,
    @Inject(SessionService) private readonly session: SessionService,
    @Inject(Sessions) private readonly sessions: Sessions,
  ) {}

  @Put("password")
  @HttpCode(204)
  @bodySchema("NewPassword")
  @ApiOperation({ summary: "A new password; signed out everywhere but here" })
  async password(@Req() request: Request, @Body() { old, password }: NewPassword): Promise<void> {
    const id = await this.idOf(request);
    await this.people.setPassword(id, old, password);
    await this.sessions.begin(request, id, "password");
  }

  @Put("pin")
  @HttpCode(204)
  @bodySchema("NewPin")
  @ApiOperation({ summary: "A PIN for benches that several share; none where it is left out" })
  async pin(@Req() request: Request, @Body() { password, pin }: NewPin): Promise<void> {
    await this.people.setPin(await this.idOf(request), password, pin);
  }

  @Post("second-factor")
  @HttpCode(200)
  @bodySchema("WithPassword")
  @ApiOperation({ summary: "A key of time codes to be set up on a phone" })
  async timeKey(@Req() request: Request, @Body() { password }: WithPassword): Promise<TimeKeyView> {
    return this.people.timeKey(await this.idOf(request), password);
  }

  @Put("second-factor")
  @HttpCode(204)
  @bodySchema("ConfirmTimeCode")
  @ApiOperation({ summary: "A code of that key: from now on one is asked for at sign-in" })
  async confirm(@Req() request: Request, @Body() { code }: ConfirmTimeCode): Promise<void> {
    await this.people.confirmTimeKey(await this.idOf(request), code);
  }

  @Delete("second-factor")
  @HttpCode(204)
  @bodySchema("WithPassword")
  @ApiOperation({ summary: "No second factor any more" })
  async drop(@Req() request: Request, @Body() { password }: WithPassword): Promise<void> {
    await this.people.dropTimeKey(await this.idOf(request), password);
  }

  @Delete("sessions")
  @HttpCode(200)
  @ApiOperation({ summary: "Sign out at every browser, this one too" })
  async everywhere(@Req() request: Request): Promise<SessionView> {
    await this.people.signOut(await this.idOf(request));
    await this.sessions.end(request);
    return this.people.session(null);
  }

  /** Tries at one's own password count like those at the door. */
  private async idOf(request: Request): Promise<string> {
    const { personId } = request.actor!;
    await this.session.countTry(request, `own ${personId}`, 20);
    return personId!;
  }
}
