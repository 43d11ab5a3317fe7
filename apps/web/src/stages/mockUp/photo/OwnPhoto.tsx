import { useRef, useState } from "react";
import { takeIn } from "../../../api/artworks";
import { keepPhoto } from "../../../api/things";
import field from "../../../shared/fields/Field.module.css";
import { tellFault } from "../../../shared/tell";
import { type BenchScene } from "../../face";
import css from "../MockUp.module.css";
import { type MockUpTools } from "../useMockUp";
import { newPhotoThing } from "./area";

/** A photograph of a thing of the shop's own, to show the print on. */
export function OwnPhoto({ scene, tools }: { readonly scene: BenchScene; readonly tools: MockUpTools }) {
  const input = useRef<HTMLInputElement>(null);
  const [doing, setDoing] = useState<string | null>(null);
  const take = async (file: File): Promise<void> => {
    setDoing("sending it");
    try {
      const photo = await keepPhoto(await takeIn(file, (how) => setDoing(how.doing)), scene.ticket.id);
      scene.set("mockUp", {
        thing: newPhotoThing(photo.key, photo.width, photo.height, photo.name),
        prints: [{ at: "upper middle", turn: 0, scale: 1 }],
        ink: "own",
      });
      tools.setChosen(0);
      tools.setHand("area");
    } catch (error) {
      tellFault("The photograph was not taken in", error);
    } finally {
      setDoing(null);
    }
  };
  return (
    <div className={css.acts}>
      <button
        type="button"
        className={field.link}
        disabled={doing !== null}
        onClick={() => input.current?.click()}
      >
        {doing ? `${doing} …` : "Your own photograph"}
      </button>
      <input
        ref={input}
        type="file"
        hidden
        aria-label="Photograph of a thing"
        accept="image/*,.heic,.heif,.avif,.jxl,.tif,.tiff"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0];
          e.currentTarget.value = "";
          if (file) void take(file);
        }}
      />
    </div>
  );
}
