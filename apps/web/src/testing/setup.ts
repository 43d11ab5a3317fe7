import { TextDecoder, TextEncoder } from "node:util";

/* What a browser has and the test's page does not, needed as soon as modules are loaded. */
Object.assign(globalThis, { TextDecoder, TextEncoder });
