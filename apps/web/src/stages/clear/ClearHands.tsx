import { Surface } from "../../table/Surface";
import { type HandsProps } from "../face";
import { type HandProps } from "./handProps";
import { useGapsHand } from "./useGapsHand";
import { useLiftHand } from "./useLiftHand";
import { usePickHand } from "./usePickHand";
import { useShapeHand } from "./useShapeHand";
import { useStrokeHand } from "./useStrokeHand";
import { useThroughHand } from "./useThroughHand";
import { type ClearTools } from "./useClear";
import { type ClearNote } from "./worker";

/** The hand of the open Clear stage on the light table. */
export function ClearHands({ scene, tools, engine, finish, placed, box }: HandsProps<ClearTools>) {
  const { hand, chosen } = tools;
  const kind = hand?.kind === "pick" ? "pick" : (chosen?.op.op ?? null);
  // What was brought back has nothing to take in hand.
  if (kind === null || kind === "back") return null;
  const found = (scene.shown?.notes.clear as ClearNote | undefined) ?? null;
  const props: HandProps = { engine, tools, finish, frame: scene.frame, placed, box, found };
  const Hand = HANDS[kind];
  return <Hand key={`${kind} ${chosen?.index ?? ""}`} {...props} />;
}

const PickHand = (props: HandProps) => <Surface hand={usePickHand(props)} box={props.box} />;
const GapsHand = (props: HandProps) => <Surface hand={useGapsHand(props)} box={props.box} />;
const LiftHand = (props: HandProps) => <Surface hand={useLiftHand(props)} box={props.box} />;
const ShapeHand = (props: HandProps) => <Surface hand={useShapeHand(props)} box={props.box} />;
const ThroughHand = (props: HandProps) => <Surface hand={useThroughHand(props)} box={props.box} />;
const StrokeHand = (props: HandProps) => <Surface hand={useStrokeHand(props)} box={props.box} />;

const HANDS = {
  pick: PickHand,
  gaps: GapsHand,
  lift: LiftHand,
  path: ShapeHand,
  hold: StrokeHand,
  brush: StrokeHand,
  cutOut: StrokeHand,
  through: ThroughHand,
};
