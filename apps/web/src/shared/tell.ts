import { notifications } from "@mantine/notifications";

/** Tells the operator that something did not work, in the words of whoever refused it. */
export function tellFault(title: string, error: unknown): void {
  // Told again it takes the place of the one before: a fault at every move of the hand is one fault.
  notifications.hide(title);
  notifications.show({ id: title, color: "red", title, message: (error as Error).message, autoClose: 12000 });
}
