import { type RequestHandler } from "express";
import helmet from "helmet";

/**
 * What the product answers is for its own pages only: nothing of others runs in them, they stand in nobody's frame,
 * and, cut off from other origins, their workers may share memory.
 */
export const guardedHeaders = (): RequestHandler =>
  helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        "default-src": ["'none'"],
        // the vector kernels are WebAssembly of the product's own making
        "script-src": ["'self'", "'wasm-unsafe-eval'"],
        "worker-src": ["'self'", "blob:"],
        // the interface's parts are placed by styles on elements
        "style-src": ["'self'", "'unsafe-inline'"],
        "img-src": ["'self'", "data:", "blob:"],
        "font-src": ["'self'", "data:"],
        "connect-src": ["'self'"],
        "manifest-src": ["'self'"],
        "base-uri": ["'none'"],
        "form-action": ["'none'"],
        "frame-ancestors": ["'none'"],
      },
    },
    crossOriginEmbedderPolicy: { policy: "require-corp" },
    crossOriginOpenerPolicy: { policy: "same-origin" },
    crossOriginResourcePolicy: { policy: "same-origin" },
    frameguard: { action: "deny" },
    referrerPolicy: { policy: "no-referrer" },
    // A shop's own machine is called by plain HTTP.
    strictTransportSecurity: false,
  });
