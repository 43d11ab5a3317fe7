import { lazy, useState, type ComponentType } from "react";

/**
 * A page whose code is loaded when it is first shown. One that was loaded before is shown in the same moment: React's own
 * way would wait for it once more, and hold the page back for a third of a second.
 */
export function loaded(load: () => Promise<ComponentType>): ComponentType & { ahead: () => Promise<void> } {
  let page: ComponentType | null = null;
  const get = async (): Promise<ComponentType> => (page = await load());
  const Late = lazy(async () => ({ default: await get() }));
  function Page() {
    // Whichever it began as it stays, so that it keeps its state.
    const [Own] = useState(() => page ?? Late);
    return <Own />;
  }
  return Object.assign(Page, { ahead: () => get().then(() => undefined) });
}
