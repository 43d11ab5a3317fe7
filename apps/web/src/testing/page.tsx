import { type Problem } from "@hardline/contract";
import { MantineProvider } from "@mantine/core";
import { notifications, Notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { render } from "@testing-library/react";
import userEvent, { type UserEvent } from "@testing-library/user-event";
import { type ReactNode } from "react";
import { MemoryRouter } from "react-router";

/** What a browser has and the test's does not. */
function fillIn(): void {
  window.matchMedia ??= (query: string) =>
    ({
      matches: false,
      media: query,
      addEventListener() {},
      removeEventListener() {},
    }) as unknown as MediaQueryList;
  window.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  window.IntersectionObserver ??= class {
    observe() {}
    disconnect() {}
  } as unknown as typeof IntersectionObserver;
  Element.prototype.scrollIntoView ??= () => {};
  // Drawn on, and never looked at.
  const measured = { width: 0 };
  HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement) {
    return new Proxy({}, { get: (_, name) => (name === "canvas" ? this : () => measured), set: () => true });
  } as never;
  window.ImageData ??= class {} as never;
  // Asked, and never answering.
  class Silent {
    postMessage() {}
    addEventListener() {}
    removeEventListener() {}
    start() {}
    close() {}
    terminate() {}
  }
  window.Worker ??= Silent as unknown as typeof Worker;
  window.MessageChannel ??= class {
    readonly port1 = new Silent();
    readonly port2 = new Silent();
  } as unknown as typeof MessageChannel;
  window.EventSource ??= class {
    addEventListener() {}
    close() {}
  } as unknown as typeof EventSource;
}

type Answer = object | ((body: unknown) => object);

/** A server that answers by "METHOD /path"; anything else is refused with 404. What was asked is noted. */
export function serverOf(answers: Readonly<Record<string, Answer>>) {
  const asked: { readonly what: string; readonly body: unknown }[] = [];
  const problem = (detail: string, status: number): Problem => ({
    type: "about:blank",
    title: "",
    status,
    detail,
  });
  window.fetch = (async (path: string, init: RequestInit = {}) => {
    const what = `${init.method ?? "GET"} ${path}`;
    const body: unknown = typeof init.body === "string" ? JSON.parse(init.body) : init.body;
    asked.push({ what, body });
    const answer = answers[what];
    if (answer instanceof Error) throw answer;
    const found =
      typeof answer === "function" ? answer(body) : (answer ?? problem(`${what} is not there.`, 404));
    const status = "status" in found && typeof found.status === "number" ? found.status : 200;
    return { ok: status < 400, status, json: async () => found } as Response;
  }) as typeof fetch;
  return asked;
}

/** A part of the interface as it stands in the program, at an address. */
export function shown(
  part: ReactNode,
  at = "/",
): { readonly user: UserEvent; readonly container: HTMLElement } {
  fillIn();
  notifications.clean();
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false, networkMode: "always" } } });
  const { container } = render(
    <MantineProvider env="test">
      <Notifications />
      <QueryClientProvider client={queries}>
        <MemoryRouter initialEntries={[at]}>{part}</MemoryRouter>
      </QueryClientProvider>
    </MantineProvider>,
  );
  return { user: userEvent.setup(), container };
}
