export * from "./artworkLimits";
export * from "./render";
export * from "./route";
export * from "./ticket";
