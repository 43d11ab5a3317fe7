export * from "./intake";
export * from "./sniff";
