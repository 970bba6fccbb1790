"use client";

import { Command } from "cmdk";
import { Modal } from "react-bootstrap";
import { actionsOf } from "./actions";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** Type to find any command of the table. */
export function CommandFinder({ session }: { session: Session }) {
  const close = (): void => useTable.setState({ dialog: null });
  return (
    <Modal show onHide={close} className="finder" aria-label="Find a command" animation={false}>
      <Command label="Find a command" loop>
        <Command.Input placeholder="What would you like to do?" autoFocus />
        <Command.List>
          <Command.Empty>No command has these words.</Command.Empty>
          {actionsOf(session).map(({ name, keys, act, disabled }) => (
            <Command.Item
              key={name}
              value={name}
              disabled={disabled}
              onSelect={() => {
                close();
                void act();
              }}
            >
              {name}
              {keys && <kbd>{keys}</kbd>}
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Modal>
  );
}
