import { create } from "zustand";
import { type Histogram } from "../../../engine/crit/histogram";
import { type Hole } from "../../../engine/crit/holes";
import { type Eyes } from "../../../worker/crit";
import { type Snapshot } from "../../../worker/snapshot";
import { tell } from "../../notices/notices";
import { type Session } from "../session";

type CritState = {
  /** The charts; null while they are away. */
  charts: Histogram | null;
  eyes: Eyes | null;
  holes: readonly Hole[] | null;
  wipe: Wipe | null;
};

/** Two points of the history side by side. */
export type Wipe = {
  /** What was done, oldest first; point 0 is before all of it. */
  steps: readonly string[];
  before: number;
  after: number;
  /** Where the line between them stands, 0…1 across the view. */
  at: number;
  pictures: { before: Snapshot; after: Snapshot };
};

/** Checks that have been asked for; they show the picture as it was then. */
export const useCrit = create<CritState>()(() => ({
  charts: null,
  eyes: null,
  holes: null,
  wipe: null,
}));

export async function toggleCharts(session: Session): Promise<void> {
  if (useCrit.getState().charts) return useCrit.setState({ charts: null });
  const answer = await session.link.api.histogram(null);
  if (answer.ok) useCrit.setState({ charts: answer.value });
  else tell(answer.why);
}

export async function toggleEyes(session: Session): Promise<void> {
  if (useCrit.getState().eyes) return useCrit.setState({ eyes: null });
  const answer = await session.link.api.eyePull();
  if (answer.ok) useCrit.setState({ eyes: answer.value });
  else tell(answer.why);
}

export async function toggleHoles(session: Session): Promise<void> {
  if (useCrit.getState().holes) return useCrit.setState({ holes: null });
  const answer = await session.link.api.holes();
  if (!answer.ok) return tell(answer.why);
  const { holes } = answer.value;
  if (holes.length === 0) return tell("No holes: all that is closed in is painted.");
  useCrit.setState({ holes });
}

/** Looks again at what is shown, after the picture has changed. */
export async function lookAgain(session: Session): Promise<void> {
  const { charts, eyes, holes } = useCrit.getState();
  useCrit.setState({ charts: null, eyes: null, holes: null });
  if (charts) await toggleCharts(session);
  if (eyes) await toggleEyes(session);
  if (holes) await toggleHoles(session);
}

/** The picture as it was at a point of the history; null, with a word said, where it cannot be had. */
async function at(session: Session, steps: number, point: number): Promise<Snapshot | null> {
  const answer = await session.link.api.seenBefore(steps - point);
  if (answer.ok) return answer.value;
  tell(answer.why);
  return null;
}

/** Lays the picture as it was over the picture as it is, with a line to wipe between them. */
export async function toggleWipe(session: Session): Promise<void> {
  if (useCrit.getState().wipe) return endWipe();
  const steps = await session.link.api.historySteps();
  if (steps.length === 0)
    return tell("Nothing has been done since this picture was opened: there is no before yet.");
  const before = await at(session, steps.length, 0);
  const after = await at(session, steps.length, steps.length);
  if (!before || !after) return;
  const pictures = { before, after };
  useCrit.setState({ wipe: { steps, before: 0, after: steps.length, at: 0.5, pictures } });
}

export const endWipe = (): void => {
  if (useCrit.getState().wipe) useCrit.setState({ wipe: null });
};

/** Another point of the history on one side of the line. */
export async function wipeWith(
  session: Session,
  side: "before" | "after",
  point: number,
): Promise<void> {
  const { wipe } = useCrit.getState();
  const made = wipe && (await at(session, wipe.steps.length, point));
  const now = useCrit.getState().wipe;
  if (!made || !now) return;
  useCrit.setState({
    wipe: { ...now, [side]: point, pictures: { ...now.pictures, [side]: made } },
  });
}
