import { create } from "zustand";
import { type Histogram } from "../../../engine/crit/histogram";
import { type Hole } from "../../../engine/crit/holes";
import { type Eyes } from "../../../worker/crit";
import { tell } from "../../notices/notices";
import { type Session } from "../session";

type CritState = {
  /** The charts; null while they are away. */
  charts: Histogram | null;
  eyes: Eyes | null;
  holes: readonly Hole[] | null;
};

/** Checks that have been asked for; they show the picture as it was then. */
export const useCrit = create<CritState>()(() => ({ charts: null, eyes: null, holes: null }));

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
