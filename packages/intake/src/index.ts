export { IntakeError } from "./errors";
export * from "./intake";
export * from "./sniff";
