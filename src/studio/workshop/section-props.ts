import { type Brush, type BrushInput } from "../../engine/stroke/brush";
import { type Session } from "../table/session";

/** What each section of the workshop is given. */
export type SectionProps = {
  session: Session;
  brush: Brush;
  change: (changes: Partial<BrushInput>) => void;
};
