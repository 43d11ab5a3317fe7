export * from "./constants";
export * from "./render";
export * from "./route";
export * from "./ticket";
