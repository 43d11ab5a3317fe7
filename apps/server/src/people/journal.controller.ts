import { type DoneView } from "@hardline/contract";
import { Controller, Get, Inject, Query } from "@nestjs/common";
import { ApiOperation, ApiTags } from "@nestjs/swagger";
import { ProblemException } from "../http/problems";
import { JournalService } from "./journal.service";

const MOST_DAYS = 31;

@ApiTags("journal")
@Controller("api/journal")
export class JournalController {
  constructor(@Inject(JournalService) private readonly journal: JournalService) {}

  @Get()
  @ApiOperation({
    summary:
      "What was done in the shop between two moments, `from` and `to`, the latest first; of one `person` if asked for",
  })
  list(
    @Query("from") from?: string,
    @Query("to") to?: string,
    @Query("person") person?: string,
  ): Promise<DoneView[]> {
    const [begin, end] = [momentIn("from", from), momentIn("to", to)];
    if (end.getTime() < begin.getTime() || end.getTime() - begin.getTime() > MOST_DAYS * 86400_000)
      throw new ProblemException(
        400,
        "Not valid",
        `to is ${to}; allowed: from ${from} on, for ${MOST_DAYS} days`,
      );
    if (person !== undefined && !/^\d{1,18}$/.test(person))
      throw new ProblemException(400, "Not valid", `person is ${JSON.stringify(person)}; allowed: digits`);
    return this.journal.list(begin, end, person);
  }
}

function momentIn(name: string, value: string | undefined): Date {
  const moment = new Date(/^\d{4}-\d\d-\d\dT[\d:.]+Z$/.test(value ?? "") ? value! : NaN);
  if (Number.isNaN(moment.getTime()))
    throw new ProblemException(
      400,
      "Not valid",
      `${name} is ${value === undefined ? "missing" : JSON.stringify(value.slice(0, 40))}; allowed: a moment as 2026-03-01T08:00:00Z`,
    );
  return moment;
}
