import {
  NewPerson,
  NewToken,
  PersonChange,
  type InvitationView,
  type NewTokenView,
  type PersonView,
  type TokenView,
} from "@hardline/contract";
import { Body, Controller, Delete, Get, HttpCode, Inject, Param, Patch, Post } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { IdPipe } from "../http/id.pipe";
import { bodySchema } from "../http/openApi";
import { PeopleService } from "./people.service";
import { TokensService } from "./tokens.service";

@ApiTags("people")
@Controller("api/people")
export class PeopleController {
  constructor(@Inject(PeopleService) private readonly people: PeopleService) {}

  @Get()
  @ApiOperation({ summary: "The shop's people" })
  list(): Promise<PersonView[]> {
    return this.people.list();
  }

  @Post()
  @bodySchema("NewPerson")
  @ApiOperation({
    summary: "Invite somebody: answered with a code, told once, by which that one sets a password",
  })
  invite(@Body() person: NewPerson): Promise<InvitationView> {
    return this.people.invite(person);
  }

  @Patch(":id")
  @bodySchema("PersonChange")
  change(@Param("id", IdPipe) id: string, @Body() change: PersonChange): Promise<PersonView> {
    return this.people.change(id, change);
  }

  @Delete(":id")
  @ApiOperation({ summary: "Somebody leaves the shop; what was done stays under the name" })
  leave(@Param("id", IdPipe) id: string): Promise<PersonView> {
    return this.people.leave(id);
  }

  @Post(":id/invitation")
  @ApiOperation({ summary: "A code for a new password, where the old one is lost" })
  invitation(@Param("id", IdPipe) id: string): Promise<InvitationView> {
    return this.people.invitation(id);
  }

  @Delete(":id/sessions")
  @HttpCode(200)
  @ApiOperation({ summary: "Sign somebody out at every browser" })
  async signOut(@Param("id", IdPipe) id: string): Promise<PersonView> {
    await this.people.signOut(id);
    return this.people.view(id);
  }
}

@ApiTags("people")
@Controller("api/tokens")
export class TokensController {
  constructor(@Inject(TokensService) private readonly tokens: TokensService) {}

  @Get()
  @ApiOperation({ summary: "Programs that may use this interface" })
  list(): Promise<TokenView[]> {
    return this.tokens.list();
  }

  @Post()
  @bodySchema("NewToken")
  @ApiOperation({ summary: "A token for a program, told once: it sends it as `Authorization: Bearer …`" })
  add(@Body() token: NewToken): Promise<NewTokenView> {
    return this.tokens.add(token);
  }

  @Delete(":id")
  @ApiOperation({ summary: "Take a token back, at once" })
  remove(@Param("id", IdPipe) id: string): Promise<TokenView> {
    return this.tokens.remove(id);
  }
}
