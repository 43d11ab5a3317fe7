import { tellFault } from "./tell";

/**
 * What a worker answers. Null where it was stopped, since something newer is wanted; any other fault is told, and there is
 * no answer either.
 * @param title  what could not be done, in words
 */
export async function answered<T>(asked: Promise<T> | undefined, title: string): Promise<T | null> {
  try {
    return (await asked) ?? null;
  } catch (error) {
    if ((error as Error).name !== "AbortError") tellFault(title, error);
    return null;
  }
}
