"use client";

import { useRef } from "react";

type NameFieldProps = {
  /** What is named, for a screen reader. */
  label: string;
  name: string;
  most?: number;
  width?: number;
  /** Called once, with the new name, or with null where it stays as it was. */
  done: (name: string | null) => void;
};

/** A name being changed in its place: Enter or leaving keeps it, Escape does not. */
export function NameField({ label, name, most = 200, width, done }: NameFieldProps) {
  const isDone = useRef(false);
  const keep = (text: string): void => {
    // Taking the field away makes it lose the focus a second time.
    if (isDone.current) return;
    isDone.current = true;
    const plain = text.trim().slice(0, most);
    done(plain && plain !== name ? plain : null);
  };
  return (
    <input
      className="form-control form-control-sm"
      style={width ? { width } : undefined}
      autoFocus
      defaultValue={name}
      aria-label={label}
      maxLength={most}
      onFocus={(event) => event.target.select()}
      onBlur={(event) => keep(event.target.value)}
      onPointerDown={(event) => event.stopPropagation()}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") {
          event.currentTarget.value = name;
          event.currentTarget.blur();
        }
      }}
    />
  );
}
