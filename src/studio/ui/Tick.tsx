import { type ReactNode } from "react";

/** Something that is so or not; `title` says what it does. */
export function Tick({
  on,
  set,
  title,
  children,
}: {
  on: boolean;
  set: (on: boolean) => void;
  title?: string;
  children: ReactNode;
}) {
  return (
    <label className="tick" title={title}>
      <input
        type="checkbox"
        className="form-check-input mt-0"
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />
      {children}
    </label>
  );
}
