import pg from "pg";
import { type Settings } from "../settings";
import { MachineLocks } from "./machineLocks";

const locks = () => new MachineLocks({ databaseUrl: process.env.TEST_DATABASE_URL! } as Settings);

afterEach(() => jest.restoreAllMocks());

test("a connection that cannot be listened on is closed, and the next look opens another", async () => {
  const own = locks();
  const ended = jest.spyOn(pg.Client.prototype, "end");
  const query = jest.spyOn(pg.Client.prototype, "query");
  query.mockImplementationOnce((async () => {
    throw new Error("too busy to listen");
  }) as never);
  await expect(own.take("laser")).rejects.toThrow("too busy to listen");
  expect(ended).toHaveBeenCalledTimes(1);
  expect(await own.take("laser")).toBe(true);
  await own.onApplicationShutdown();
});

test("a machine's lock that cannot be asked for leaves the machine free and the connection in use", async () => {
  const [own, other] = [locks(), locks()];
  await own.connected();
  const query = jest.spyOn(pg.Client.prototype, "query");
  query.mockImplementationOnce((async () => {
    throw new Error("away");
  }) as never);
  await expect(own.take("knife")).rejects.toThrow("away");
  expect(await other.take("knife")).toBe(true);
  expect(await own.take("knife")).toBe(false);
  await other.give("knife");
  expect(await own.take("knife")).toBe(true);
  await Promise.all([own.onApplicationShutdown(), other.onApplicationShutdown()]);
});
