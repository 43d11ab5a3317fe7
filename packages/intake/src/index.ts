export { IntakeError } from "./errors";
export * from "./intake";
export * from "./sniff";
export { FIRST, type Part } from "./pages";
