import { useDebouncedValue } from "@mantine/hooks";

/** So long, in milliseconds, typing rests before something is asked for. */
const RESTS_MS = 120;

/** Words to look for, once typing rests. */
export const useTyped = (words: string): string => useDebouncedValue(words.trim(), RESTS_MS)[0];
