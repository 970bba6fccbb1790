/** Times of a piece of work: the median of several runs, in ms. */
export function median(act: () => void, runs = 15, before: () => void = () => undefined): number {
  const times: number[] = [];
  for (let i = 0; i < runs + 3; i++) {
    before();
    const start = performance.now();
    act();
    // The first runs warm the machine up.
    if (i >= 3) times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  return times[times.length >> 1] as number;
}

/**
 * A piece of work and its reference, turn and turn about, so that a machine that changes its
 * pace between them does not decide: the median time of the work, and the median ratio of
 * each reference to the work beside it.
 */
export function inTurn(
  act: () => void,
  reference: () => void,
  runs = 15,
  before: () => void = () => undefined,
): { ms: number; ratio: number } {
  const time = (run: () => void): number => {
    before();
    const start = performance.now();
    run();
    return performance.now() - start;
  };
  const pairs: { ms: number; ratio: number }[] = [];
  for (let i = 0; i < runs + 3; i++) {
    const ms = time(act);
    const beside = time(reference);
    if (i >= 3) pairs.push({ ms, ratio: beside / ms });
  }
  const middle = (of: (pair: { ms: number; ratio: number }) => number): number =>
    pairs.map(of).sort((a, b) => a - b)[pairs.length >> 1] as number;
  return { ms: middle(({ ms }) => ms), ratio: middle(({ ratio }) => ratio) };
}

/** As `inTurn`, for work that waits. */
export async function inTurnAsync(
  act: () => Promise<void>,
  reference: () => Promise<void>,
  runs: number,
): Promise<{ ms: number; ratio: number }> {
  const time = async (run: () => Promise<void>): Promise<number> => {
    const start = performance.now();
    await run();
    return performance.now() - start;
  };
  const pairs: { ms: number; ratio: number }[] = [];
  for (let i = 0; i < runs + 1; i++) {
    const ms = await time(act);
    const beside = await time(reference);
    if (i >= 1) pairs.push({ ms, ratio: beside / ms });
  }
  const middle = (of: (pair: { ms: number; ratio: number }) => number): number =>
    pairs.map(of).sort((a, b) => a - b)[pairs.length >> 1] as number;
  return { ms: middle(({ ms }) => ms), ratio: middle(({ ratio }) => ratio) };
}

export type Row = {
  what: string;
  reference: string;
  /** What the figure must be: at least, or at most. */
  wanted: { least: number } | { most: number } | null;
  ratio: number;
  note: string;
};

export const meets = ({ wanted, ratio }: Row): boolean | null => {
  if (!wanted) return null;
  return "least" in wanted ? ratio >= wanted.least : ratio <= wanted.most;
};

export function table(rows: readonly Row[]): string {
  const cells = rows.map((row) => {
    const met = meets(row);
    const wanted = !row.wanted
      ? ""
      : "least" in row.wanted
        ? `≥ ${row.wanted.least}`
        : `≤ ${row.wanted.most}`;
    return [
      row.what,
      row.reference,
      wanted,
      row.ratio.toFixed(2),
      met === null ? "" : met ? "yes" : "NO",
      row.note,
    ];
  });
  const head = ["what", "reference", "asked", "×", "met", "note"];
  const widths = head.map((title, i) =>
    Math.max(title.length, ...cells.map((cell) => (cell[i] as string).length)),
  );
  const line = (cell: readonly string[]): string =>
    cell.map((text, i) => text.padEnd(widths[i] as number)).join("  ");
  return [line(head), widths.map((w) => "─".repeat(w)).join("  "), ...cells.map(line)].join("\n");
}
