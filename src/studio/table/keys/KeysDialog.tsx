"use client";

import { useState } from "react";
import { Button, Modal } from "react-bootstrap";
import { remember } from "../session";
import { useTable } from "../table-store";
import {
  changedKeys,
  firstKeys,
  isAssignable,
  type KeyAction,
  keyActions,
  type KeyMap,
  keyName,
  withKey,
} from "./key-map";

/** Keys that stay where they are: the whole desktop shares them, or nothing else will do. */
const fixed: [key: string, tap: string, hold: string][] = [
  ["Space", "", "move the sheet"],
  ["Shift", "", "straight from the last point"],
  ["Tab", "bare table", ""],
  ["Ctrl K", "find a command", ""],
  ["Ctrl Z", "undo", ""],
  ["Ctrl Shift Z", "redo", ""],
  ["Delete", "clear layers", ""],
];

function choose(keys: KeyMap): void {
  useTable.setState({ keys });
  void remember({ keys: changedKeys(keys) });
}

function KeyRow({ action }: { action: KeyAction }) {
  const keys = useTable((state) => state.keys);
  const [waiting, setWaiting] = useState(false);
  const { tap, hold } = keyActions[action];
  const name = keyName(keys[action]);
  return (
    <tr>
      <td>
        <button
          type="button"
          className="key"
          aria-label={waiting ? "Press the new key" : `${tap || hold}: key ${name}. Change`}
          onClick={() => setWaiting(true)}
          onBlur={() => setWaiting(false)}
          onKeyDown={(event) => {
            if (!waiting) return;
            event.preventDefault();
            event.stopPropagation();
            if (event.key === "Escape") setWaiting(false);
            if (!isAssignable(event.code)) return;
            choose(withKey(keys, action, event.code));
            setWaiting(false);
          }}
        >
          {waiting ? "press…" : name}
        </button>
      </td>
      <td>{tap}</td>
      <td>{hold}</td>
    </tr>
  );
}

/** What every key does, and a way to change it. */
export function KeysDialog() {
  const keys = useTable((state) => state.keys);
  return (
    <Modal
      aria-label="Keys"
      show
      onHide={() => useTable.setState({ dialog: null })}
      animation={false}
    >
      <Modal.Header closeButton>
        <Modal.Title>Keys: tap to switch, hold to borrow</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p className="quiet mb-2">
          Press a key in the list, then the one you would rather have. Two that want the same key
          exchange theirs.
        </p>
        <table className="w-100 keys">
          <thead>
            <tr>
              <th>Key</th>
              <th>Tap</th>
              <th>Hold</th>
            </tr>
          </thead>
          <tbody>
            {(Object.keys(keyActions) as KeyAction[]).map((action) => (
              <KeyRow key={action} action={action} />
            ))}
            {fixed.map(([key, tap, hold]) => (
              <tr key={key}>
                <td>
                  <span className="key fixed">{key}</span>
                </td>
                <td>{tap}</td>
                <td>{hold}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Modal.Body>
      <Modal.Footer>
        <Button
          variant="outline-secondary"
          disabled={Object.keys(changedKeys(keys)).length === 0}
          onClick={() => choose(firstKeys)}
        >
          As they were at first
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
