import { Button, Group, Modal, TextInput } from "@mantine/core";
import { type Route } from "@hardline/core/route/route";
import { useState } from "react";
import { useNavigate } from "react-router";
import { takeIn } from "../api/artworks";
import { startTicketWith } from "../api/tickets";
import { NumberField } from "../shared/fields/NumberField";
import { tellFault } from "../shared/tell";

/** A capital is so high, as a share of a piece's height. */
const CAPITAL = 0.25;

/** A ticket of words alone: a bare piece of a size, with words on it that are set further at the bench. */
export function WordsTicket({ close }: { readonly close: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const [width, setWidth] = useState(90);
  const [height, setHeight] = useState(40);
  const [busy, setBusy] = useState(false);
  const begin = async () => {
    setBusy(true);
    try {
      const bare = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ${height}"/>`;
      const { id } = await takeIn(new File([bare], "words.svg", { type: "image/svg+xml" }));
      const words = text.trim();
      const ticket = await startTicketWith(id, words.slice(0, 80), (route) => {
        const [size] = route.stages.filter((s) => s.stage === "size");
        const edit = {
          ...{ edit: "text", text: words, at: [0.5, 0.5], capitalMm: Math.max(0.3, CAPITAL * height) },
          box: { widthMm: 0.9 * width, heightMm: 0.9 * height, tooLong: "shrink" },
        };
        const stages = [
          { ...size, widthMm: width, heightMm: undefined },
          { stage: "trace", edits: [edit] },
        ];
        // What is left open is what is usual: the server fills it in.
        return { ...route, name: "Words", stages } as unknown as Route;
      });
      void navigate(`/tickets/${ticket.id}`);
    } catch (error) {
      tellFault("The ticket was not started", error);
      setBusy(false);
    }
  };
  return (
    <Modal opened onClose={close} title="Words, no picture">
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void begin();
        }}
      >
        <TextInput
          label="Words"
          data-autofocus
          maxLength={200}
          value={text}
          onChange={(e) => setText(e.currentTarget.value)}
        />
        <Group grow mt="sm">
          <NumberField
            shown
            label="Width"
            unit="mm"
            value={width}
            min={1}
            max={5000}
            change={setWidth}
            size="sm"
          />
          <NumberField
            shown
            label="Height"
            unit="mm"
            value={height}
            min={1}
            max={5000}
            change={setHeight}
            size="sm"
          />
        </Group>
        <Group justify="flex-end" mt="md">
          <Button type="submit" loading={busy} disabled={text.trim() === ""}>
            Start a ticket
          </Button>
        </Group>
      </form>
    </Modal>
  );
}
