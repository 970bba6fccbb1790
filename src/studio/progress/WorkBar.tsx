"use client";

import { ProgressBar } from "react-bootstrap";

/** How far work has come, 0…1; null: it goes on, nobody knows how far. */
export function WorkBar({
  share,
  label = "Progress",
  className,
}: {
  share: number | null;
  label?: string;
  className?: string;
}) {
  const bar = share === null ? { animated: true, striped: true, now: 100 } : { now: share * 100 };
  // The bar itself carries the name, not what it lies in.
  return (
    <ProgressBar className={className}>
      <ProgressBar isChild aria-label={label} {...bar} />
    </ProgressBar>
  );
}
