import { type RouteView } from "@hardline/contract";
import { settingsOf, stageById, STAGES, type Route, type StageId } from "@hardline/core";
import { Button, Group, Modal, Table } from "@mantine/core";
import { type RouteKeeper } from "./RouteKeeper";

/** Two operators changed one route: shows what differs and asks which goes on. */
export function Conflict({ keeper, theirs, mine }: { keeper: RouteKeeper; theirs: RouteView; mine: Route }) {
  const words = (route: Route, id: StageId) => {
    const settings = settingsOf(route, id);
    return settings ? stageById(id).summary(settings) : "not on this route";
  };
  const differing = STAGES.filter((s) => !s.always && words(mine, s.id) !== words(theirs.route, s.id));
  return (
    <Modal
      opened
      onClose={() => undefined}
      withCloseButton={false}
      title="This route was changed in another window"
      size="lg"
    >
      <p>Nothing is lost: whichever you choose goes on, and the other stays among the revisions.</p>
      <Table withRowBorders>
        <Table.Thead>
          <Table.Tr>
            <Table.Th>Stage</Table.Th>
            <Table.Th>Here</Table.Th>
            <Table.Th>There, revision {theirs.revision}</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {differing.map(({ id, title }) => (
            <Table.Tr key={id}>
              <Table.Td>{title}</Table.Td>
              <Table.Td>{words(mine, id)}</Table.Td>
              <Table.Td>{words(theirs.route, id)}</Table.Td>
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
