export * from "./artworks";
export * from "./flatArt";
export * from "./harbourLight";
export * from "./inkDrawing";
export * from "./painting";
export * from "./photograph";
export * from "./scenario";
