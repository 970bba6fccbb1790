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

/** What pen, fingers and mouse do on the sheet. */
const gestures: [hand: string, act: string, does: string][] = [
  ["Pen", "draw", "draws, by pressure and tilt"],
  ["Pen", "other end", "lifts, or blends"],
  ["One finger", "drag", "draws; once a pen has been seen it moves the sheet"],
  ["Two fingers", "drag", "moves, turns and zooms the sheet"],
  ["Two fingers", "pinch quickly", "fits the sheet"],
  ["Two fingers", "tap", "undoes"],
  ["Three fingers", "tap", "redoes"],
  ["Wheel", "turn", "zooms at the pointer"],
  ["Two fingers on a pad", "push", "moves the sheet"],
  ["Two fingers on a pad", "pinch", "zooms at the pointer"],
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
      aria-label="Keys and gestures"
      dialogClassName="keys-dialog"
      scrollable
      show
      onHide={() => useTable.setState({ dialog: null })}
      animation={false}
    >
      <Modal.Header closeButton>
        <Modal.Title>Keys and gestures</Modal.Title>
      </Modal.Header>
      <Modal.Body className="keys-sheet">
        <section aria-label="Keys">
          <h3>Keys: tap to switch, hold to borrow</h3>
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
        </section>
        <section aria-label="Gestures">
          <h3>Gestures on the sheet</h3>
          <table className="w-100 keys gestures">
            <thead>
              <tr>
                <th>With</th>
                <th>Do</th>
                <th>What it does</th>
              </tr>
            </thead>
            <tbody>
              {gestures.map(([hand, act, does]) => (
                <tr key={`${hand} ${act}`}>
                  <td>{hand}</td>
                  <td>{act}</td>
                  <td>{does}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet mt-2">
            A palm on the glass changes nothing while the pen is near.{" "}
            <button
              type="button"
              className="btn btn-link p-0 align-baseline"
              onClick={() => useTable.setState({ dialog: "pen" })}
            >
              Pen and hands
            </button>{" "}
            says what buttons and fingers do.
          </p>
        </section>
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
