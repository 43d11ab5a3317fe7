import { notifications } from "@mantine/notifications";

/** Tells the operator that something did not work, in the words of whoever refused it. */
export function tellFault(title: string, error: unknown): void {
  notifications.show({ color: "red", title, message: (error as Error).message, autoClose: 12000 });
}
