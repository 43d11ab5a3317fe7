import { setTimeout as sleep } from "node:timers/promises";

/** Whether an error says that the database, or the way to it, is away. */
export function isAway(error: unknown): boolean {
  const { code = "", message = "" } = (error ?? {}) as { code?: string; message?: string };
  return (
    /^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT|57P0\d|08\d{3}|53300)$/.test(code) ||
    /Connection terminated|Cannot use a pool after calling end|timeout exceeded when trying to connect|Client has encountered a connection error|connection is not queryable/.test(
      message,
    )
  );
}

/** Whether it was away before anything could reach it. */
export function neverReached(error: unknown): boolean {
  const { code = "", message = "" } = error as { code?: string; message?: string };
  return /^(ECONNREFUSED|57P03)$/.test(code) || /timeout exceeded when trying to connect/.test(message);
}

/**
 * Asks again while the database is away, longer and longer apart.
 * @param act        something that may be done twice
 * @param forMs      gives up after so long
 */
export async function askAgain<T>(act: () => Promise<T>, forMs: number): Promise<T> {
  const until = Date.now() + forMs;
  for (let wait = 50; ; wait = Math.min(2000, wait * 2)) {
    try {
      return await act();
    } catch (error) {
      if (!isAway(error) || Date.now() + wait > until) throw error;
      await sleep(wait);
    }
  }
}
