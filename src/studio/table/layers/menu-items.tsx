"use client";

import { type ReactNode } from "react";
import { Dropdown } from "react-bootstrap";

/** A line of a menu. */
export function Item({
  act,
  children,
  disabled = false,
}: {
  act: () => unknown;
  children: ReactNode;
  disabled?: boolean;
}) {
  return (
    <Dropdown.Item as="button" type="button" disabled={disabled} onClick={() => void act()}>
      {children}
    </Dropdown.Item>
  );
}

/** A short choice in a row of them; like any item it closes the menu. */
export function Step({
  act,
  children,
  ...labels
}: {
  act: () => unknown;
  children: ReactNode;
  "aria-label": string;
  title?: string;
}) {
  return (
    <Dropdown.Item as="button" type="button" bsPrefix="step" onClick={() => void act()} {...labels}>
      {children}
    </Dropdown.Item>
  );
}
