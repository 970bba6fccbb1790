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

/** A menu that opens from a small picture; `label` is its name, `title` says what it is for. */
export function IconMenu({
  label,
  title = label,
  icon,
  children,
}: {
  label: string;
  title?: string;
  icon: ReactNode;
  children: ReactNode;
}) {
  return (
    <Dropdown>
      <Dropdown.Toggle
        as="button"
        type="button"
        className="icon-button no-caret"
        aria-label={label}
        title={title}
      >
        {icon}
      </Dropdown.Toggle>
      <Dropdown.Menu className="crit-menu layer-menu">{children}</Dropdown.Menu>
    </Dropdown>
  );
}
