import { useDocumentTitle } from "@mantine/hooks";
import { useParams } from "react-router";
import { useSheet } from "../api/sheets";
import { Bay } from "../shared/bay/Bay";
import bay from "../shared/bay/Bay.module.css";
import { SheetBench } from "./SheetBench";

/** A sheet of pieces. */
export function SheetPage() {
  const { sheetId = "" } = useParams();
  const { data: sheet, error } = useSheet(sheetId);
  useDocumentTitle(`${sheet?.name ?? "Sheet"}, Hard Line`);
  if (sheet) return <SheetBench key={sheet.id} sheet={sheet} />;
  return (
    <Bay docket={error && <p className={bay.fault}>{error.message}</p>} readings={null}>
      {null}
    </Bay>
  );
}
