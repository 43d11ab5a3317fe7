import { useMemo, useState } from "react";
import { defineFace } from "../face";
import { TransferPanel } from "./TransferPanel";
import { type TransferShow } from "./worker";

/** What is looked at; nothing of it is a setting. */
function useTransfer() {
  const [show, setShow] = useState<TransferShow>("print");
  return useMemo(() => ({ show, setShow }), [show]);
}

export type TransferTools = ReturnType<typeof useTransfer>;

export const transferFace = defineFace<TransferTools>({
  id: "transfer",
  useTools: useTransfer,
  Panel: TransferPanel,
  view: ({ show }) => ({ show }),
});
