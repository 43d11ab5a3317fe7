import { type NextFunction, type Request, type Response } from "express";

/**
 * Cuts the page off from other origins, which lets its workers share memory. Whatever the product itself answers may
 * be used by its own pages only.
 */
export function isolate(_request: Request, response: Response, next: NextFunction): void {
  response.set({
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Embedder-Policy": "require-corp",
    "Cross-Origin-Resource-Policy": "same-origin",
  });
  next();
}
