/** Seconds as a person reads them: 42 s, 6 min 30 s, 1 h 05 min. */
export function timeText(seconds: number): string {
  const whole = Math.round(seconds);
  if (whole < 60) return `${whole < 10 ? seconds.toFixed(1) : whole} s`;
  const two = (n: number) => String(n).padStart(2, "0");
  if (whole < 3600) return `${Math.floor(whole / 60)} min ${two(whole % 60)} s`;
  return `${Math.floor(whole / 3600)} h ${two(Math.floor((whole % 3600) / 60))} min`;
}

/** A place in a run: 6:30.4 */
export const clockText = (seconds: number): string =>
  `${Math.floor(seconds / 60)}:${(seconds % 60).toFixed(1).padStart(4, "0")}`;
