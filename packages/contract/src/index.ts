export * from "./artworkLimits";
