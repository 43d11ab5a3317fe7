import { ChangePerson, FirstOwner, JoinWith, SignIn, type SessionView } from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Post, Req } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { type Request } from "express";
import { bodySchema } from "../http/openApi";
import { PeopleService } from "./people.service";
import { SessionService } from "./session.service";

@ApiTags("session")
@Controller("api")
export class SessionController {
  constructor(
    @Inject(SessionService) private readonly sessions: SessionService,
    @Inject(PeopleService) private readonly people: PeopleService,
  ) {}

  @Get("session")
  @ApiOperation({ summary: "Who is signed in here, and what that one may do" })
  get(@Req() request: Request): Promise<SessionView> {
    return this.people.session(request.actor ?? null);
  }

  @Post("session")
  @HttpCode(200)
  @bodySchema("SignIn")
  @ApiOperation({ summary: "Sign in; 401 with the title `Second factor` where a code is wanted as well" })
  signIn(@Req() request: Request, @Body() given: SignIn): Promise<SessionView> {
    return this.sessions.signIn(request, given);
  }

  @Delete("session")
  @HttpCode(204)
  @ApiOperation({ summary: "Sign out" })
  signOut(@Req() request: Request): Promise<void> {
    return this.sessions.signOut(request);
  }

  @Post("session/person")
  @HttpCode(200)
  @bodySchema("ChangePerson")
  @ApiOperation({ summary: "Another person at a browser that several share, by a PIN" })
  change(@Req() request: Request, @Body() given: ChangePerson): Promise<SessionView> {
    return this.sessions.change(request, given);
  }

  @Post("first-owner")
  @bodySchema("FirstOwner")
  @ApiOperation({
    summary: "The shop's first person, by the code that the program printed where it was started",
  })
  first(@Req() request: Request, @Body() { code, name, password }: FirstOwner): Promise<SessionView> {
    return this.sessions.first(request, code, name, password);
  }

  @Get("invitations/:code")
  @ApiOperation({ summary: "Who a way in is for" })
  invited(@Req() request: Request, @Param("code") code: string): Promise<{ name: string }> {
    return this.sessions.invited(request, code);
  }

  @Post("invitations/:code")
  @bodySchema("JoinWith")
  @ApiOperation({ summary: "Come in by it, with a password from now on" })
  join(
    @Req() request: Request,
    @Param("code") code: string,
    @Body() { password }: JoinWith,
  ): Promise<SessionView> {
    return this.sessions.join(request, code, password);
  }
}
