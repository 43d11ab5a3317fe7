import { useState } from "react";

export interface SizeTools {
  /** The whole artwork is on the table, and the piece's box on it can be dragged. */
  readonly cropping: boolean;
  readonly setCropping: (cropping: boolean) => void;
  /** The photograph as supplied is on the table, and a paper's corners on it can be dragged. */
  readonly placing: boolean;
  readonly setPlacing: (placing: boolean) => void;
}

/** One of them at a time. */
export function useSizeTools(): SizeTools {
  const [tool, setTool] = useState<"cropping" | "placing" | null>(null);
  const turner = (name: "cropping" | "placing") => (on: boolean) => setTool(on ? name : null);
  return {
    cropping: tool === "cropping",
    setCropping: turner("cropping"),
    placing: tool === "placing",
    setPlacing: turner("placing"),
  };
}
