import "reflect-metadata";
import { ROLES, type Role } from "@hardline/contract";
import { NestFactory } from "@nestjs/core";
import { AppModule } from "../app.module";
import { nestLog } from "../log/log";
import { PeopleService } from "./people.service";

const USAGE = `What the shop's people are, and ways in, from the machine itself.

  npm run person                        who there is
  npm run person -- add NAME ROLE       somebody new (${ROLES.join(", ")})
  npm run person -- way NAME            a way to a new password; the second factor is taken off by it
  npm run person -- out NAME            signed out at every browser
`;

/** A lost password of the only owner is mended here: whoever has the machine has the shop. */
async function main(): Promise<void> {
  const [command = "list", name = "", role = ""] = process.argv.slice(2);
  if (!["list", "add", "way", "out"].includes(command) || (command !== "list" && name === "")) {
    process.stderr.write(USAGE);
    process.exit(2);
  }
  process.argv.push("--role=seed"); // takes no renders, and sends nothing
  const app = await NestFactory.createApplicationContext(AppModule, { logger: nestLog });
  const people = app.get(PeopleService);
  const print = (line: string) => void process.stdout.write(`${line}\n`);
  const way = ({ code, person }: Awaited<ReturnType<PeopleService["invitation"]>>) =>
    print(
      `${person.name} comes in at /join/${code}\nOpen it at the address of the program within seven days.`,
    );
  try {
    if (command === "list")
      for (const p of await people.list())
        print([p.name, p.role, p.joined ? "has a password" : "has no password yet"].join(", "));
    else if (command === "add") {
      if (!ROLES.includes(role as Role))
        throw new Error(`the role is ${JSON.stringify(role)}; allowed: ${ROLES.join(", ")}`);
      way(await people.invite({ name, role: role as Role }));
    } else {
      const person = await people.named(name);
      if (!person) throw new Error(`there is nobody called ${JSON.stringify(name)}`);
      const id = String(person.id);
      if (command === "way") way(await people.invitation(id));
      else {
        await people.signOut(id);
        print(`${person.name} is signed out everywhere.`);
      }
    }
  } finally {
    await app.close();
  }
}

main().catch((error: unknown) => {
  process.stderr.write(`${(error as Error).message}\n`);
  process.exit(1);
});
