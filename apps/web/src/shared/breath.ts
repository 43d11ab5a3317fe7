/** A page draws sixty times a second; work that took longer than this lets it. */
const AT_ONCE_MS = 12;

let since = 0;

/** For work on the page's own thread: lets the page draw between two slices, once the last time is long enough ago. */
export async function breath(): Promise<void> {
  const now = performance.now();
  if (now - since < AT_ONCE_MS) return;
  await new Promise((go) => setTimeout(go));
  since = performance.now();
}
