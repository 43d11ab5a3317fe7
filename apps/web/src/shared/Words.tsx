import { useWords } from "./unit";

/** Words with their lengths in the unit that is set. */
export function Words({ of }: { of: string }) {
  const words = useWords();
  return <>{words(of)}</>;
}
