import { Button, Group, Modal, Slider } from "@mantine/core";
import { useState } from "react";
import { CARD_MM, useCalibration } from "./calibration";
import css from "./CalibrateDialog.module.css";

/** Measures the screen once: the operator holds a bank card against it and sizes a rectangle to match. */
export function CalibrateDialog({ opened, close }: { opened: boolean; close: () => void }) {
  const { pixelsPerMm, measure } = useCalibration();
  const [trial, setTrial] = useState(pixelsPerMm);
  return (
    <Modal opened={opened} onClose={close} title="How large is this screen?" size="lg">
      <p className={css.words}>
        Hold a bank card against the screen and make the frame exactly as large as the card. This is asked
        once for each screen.
      </p>
      <div className={css.stage}>
        <div className={css.card} style={{ width: CARD_MM.width * trial, height: CARD_MM.height * trial }} />
      </div>
      <Slider
        thumbLabel="Size of the frame"
        min={2}
        max={8}
        step={0.01}
        value={trial}
        onChange={setTrial}
        label={null}
      />
      <Group justify="flex-end" mt="md">
        <Button
          onClick={() => {
            measure(trial);
            close();
          }}
        >
          It matches
        </Button>
      </Group>
    </Modal>
  );
}
