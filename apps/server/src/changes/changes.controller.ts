import { Controller, Inject, Sse, type MessageEvent } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { map, type Observable } from "rxjs";
import { ChangesService } from "./changes.service";

@ApiTags("changes")
@Controller("api/changes")
export class ChangesController {
  constructor(@Inject(ChangesService) private readonly service: ChangesService) {}

  @Sse()
  @ApiOperation({ summary: "Which of the shop's lists changed, as it happens (server-sent events)" })
  changes(): Observable<MessageEvent> {
    return this.service.changes().pipe(map((data) => ({ data })));
  }
}
