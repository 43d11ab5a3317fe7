export * from "./constants";
export * from "./house";
export * from "./material";
export * from "./render";
export * from "./route";
export * from "./ticket";
