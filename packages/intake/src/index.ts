export { IntakeError } from "./errors";
export * from "./intake";
export * from "./sniff";
export { pagesOf, type PageToChoose } from "./formats/pdf";
export { FIRST, PAGE_BOXES, type PageBox, type Part } from "./pdf/page";
