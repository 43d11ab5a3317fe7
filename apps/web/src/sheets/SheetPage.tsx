import { useDocumentTitle } from "@mantine/hooks";
import { useParams } from "react-router";
import { useSheet } from "../api/sheets";
import { Bay } from "../shell/bay/Bay";
import { NotHere } from "../shell/NotHere";
import { SheetBench } from "./SheetBench";

/** A sheet of pieces. */
export function SheetPage() {
  const { sheetId = "" } = useParams();
  const { data: sheet, error } = useSheet(sheetId);
  useDocumentTitle(`${sheet?.name ?? "Sheet"}, Hard Line`);
  if (sheet) return <SheetBench key={sheet.id} sheet={sheet} />;
  if (error) return <NotHere what="This sheet cannot be shown" why={error.message} />;
  return (
    <Bay docket={null} readings={null}>
      {null}
    </Bay>
  );
}
