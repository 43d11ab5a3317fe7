import { useState } from "react";

export interface SizeTools {
  /** The whole artwork is on the table, and the piece's box on it can be dragged. */
  readonly cropping: boolean;
  readonly setCropping: (cropping: boolean) => void;
}

export function useSizeTools(): SizeTools {
  const [cropping, setCropping] = useState(false);
  return { cropping, setCropping };
}
