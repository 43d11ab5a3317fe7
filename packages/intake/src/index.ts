export { IntakeError } from "./errors";
export * from "./intake";
export * from "./sniff";
export { pagesOf } from "./formats/pdf";
export { FIRST, type Part } from "./pdf/page";
