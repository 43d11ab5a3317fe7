/** @jest-environment jsdom */
import { screen, waitFor } from "@testing-library/react";
import { serverOf, shown } from "../testing/page";
import { ticketOf } from "../testing/ticket";
import { OrderAgainForm } from "./OrderAgainForm";

const ticket = ticketOf(1042, { id: "7", pieces: 4, materialColour: "#112244" });
const offer = { ticket, words: ["Ann", "Gate"], colourways: ["Navy", "Sand"] };

test("what is the same is not sent as another; what is, is", async () => {
  const asked = serverOf({
    "GET /api/tickets/7/again": offer,
    "POST /api/tickets/7/again": ticketOf(1043, { id: "8" }),
  });
  const { user } = shown(<OrderAgainForm ticketId="7" close={() => undefined} />);
  const words = await screen.findByLabelText("Words: Ann");
  await user.clear(words);
  await user.type(words, "Berit");
  await user.click(screen.getByRole("button", { name: "Make the ticket" }));
  await waitFor(() => expect(asked.at(-1)!.what).toBe("POST /api/tickets/7/again"));
  expect(asked.at(-1)!.body).toEqual({
    ...{ pieces: 4, due: null, materialColour: "#112244" },
    words: [{ was: "Ann", now: "Berit" }],
  });
});

test("why it cannot be is said, and nothing is lost", async () => {
  serverOf({
    "GET /api/tickets/7/again": offer,
    "POST /api/tickets/7/again": {
      type: "",
      title: "",
      status: 400,
      detail: "pieces is 0; it must be 1 or more",
    },
  });
  const { user } = shown(<OrderAgainForm ticketId="7" close={() => undefined} />);
  const words = await screen.findByLabelText("Words: Gate");
  await user.type(words, " 2");
  await user.click(screen.getByRole("button", { name: "Make the ticket" }));
  expect((await screen.findByRole("alert")).textContent).toContain("pieces is 0");
  expect(screen.getByLabelText<HTMLInputElement>("Words: Gate").value).toBe("Gate 2");
});
