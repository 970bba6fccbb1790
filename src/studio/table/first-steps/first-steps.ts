import { create } from "zustand";
import { markTold, wasTold } from "../advice";
import { modeNow, type TableState, useTable } from "../table-store";

/** Under this name it is remembered that the first steps were taken or skipped. */
const NAME = "First steps";

/** What is learnt first, each by doing it: how one sees that it was done. */
export const firstSteps = [
  { title: "Draw", isDone: (now, before) => wentOn(now, before) },
  {
    title: "Take away",
    isDone: (now, before) => wentOn(now, before) && modeNow(before) !== "paint",
  },
  { title: "Find anything", isDone: ({ dialog }) => dialog === "finder" },
] as const satisfies readonly {
  title: string;
  isDone: (now: TableState, before: TableState) => boolean;
}[];

/** Whether a step was added to the picture's history. */
const wentOn = ({ picture }: TableState, { picture: before }: TableState): boolean =>
  !!picture && !!before && picture.id === before.id && picture.place > before.place;

type Steps = { /** Which step is shown; null: none. */ at: number | null };
export const useFirstSteps = create<Steps>(() => ({ at: null }));

/** Goes on to the next step; after the last one they are never shown again. */
export function nextStep(): void {
  const { at } = useFirstSteps.getState();
  if (at === null) return;
  if (at + 1 < firstSteps.length) return useFirstSteps.setState({ at: at + 1 });
  endSteps();
}

/** Takes the steps away for good. */
export function endSteps(): void {
  useFirstSteps.setState({ at: null });
  markTold(NAME);
}

/**
 * Shows the first steps to who has not seen them, and goes on as each is done. A picture that is only looked at has
 * none. Returns a function that stops.
 */
export function takeFirstSteps(): () => void {
  if (!wasTold(NAME)) useFirstSteps.setState({ at: 0 });
  const stop = useTable.subscribe((now, before) => {
    const { at } = useFirstSteps.getState();
    if (at !== null && firstSteps[at]?.isDone(now, before)) nextStep();
  });
  return () => {
    stop();
    useFirstSteps.setState({ at: null });
  };
}

/** Shows them again from the first one. */
export const showStepsAgain = (): void => useFirstSteps.setState({ at: 0 });
