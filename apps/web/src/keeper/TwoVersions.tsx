import { Button, Group, Modal, Table } from "@mantine/core";
import { Words } from "../shared/Words";

interface Props {
  /** What was changed, as "This route". */
  readonly what: string;
  /** What becomes of the one that is not chosen. */
  readonly note: string;
  /** What the other one is called. */
  readonly there: string;
  readonly keeper: { readonly takeTheirs: () => void; readonly keepMine: () => Promise<void> };
  /** What differs: what it is called, how it is here, how it is there. */
  readonly rows: readonly (readonly [what: string, here: string, there: string])[];
}

/** Two windows changed one thing: shows what differs and asks which goes on. */
export function TwoVersions({ what, note, there, keeper, rows }: Props) {
  return (
    <Modal
      opened
      onClose={() => undefined}
      withCloseButton={false}
      title={`${what} was changed in another window`}
      size="lg"
    >
      <p>{note}</p>
      <Table withRowBorders>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>What differs</Table.Th>
            <Table.Th>Here</Table.Th>
            <Table.Th>{there}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {rows.map(([name, here, other]) => (
            <Table.Tr key={name}>
              <Table.Td>{name}</Table.Td>
              <Table.Td>
                <Words of={here} />
              </Table.Td>
              <Table.Td>
                <Words of={other} />
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      <Group justify="flex-end" mt="md">
        <Button variant="default" onClick={() => keeper.takeTheirs()}>
          Take theirs
        </Button>
        <Button onClick={() => void keeper.keepMine()}>Keep mine</Button>
      </Group>
    </Modal>
  );
}
