"use client";

import { Modal } from "react-bootstrap";
import { useTable } from "./table-store";

const rows: [key: string, tap: string, hold: string][] = [
  ["A", "Paint", ""],
  ["D", "Lift", "Lift while held"],
  ["F", "Blend", "Blend while held"],
  ["S", "", "drag: size across, strength up and down"],
  ["Q", "last brush", ""],
  ["C", "", "pick a colour"],
  ["X", "swap colours", ""],
  ["B", "mirror view", "mirror while held"],
  ["R", "upright", "drag: turn the view"],
  ["Z", "fit", "drag: zoom"],
  ["Space", "", "move the sheet"],
  ["Shift", "", "straight from the last point"],
  ["Tab", "bare table", ""],
  ["Ctrl K", "find a command", ""],
];

export function KeysDialog() {
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
        <table className="w-100">
          <thead>
            <tr>
              <th>Key</th>
              <th>Tap</th>
              <th>Hold</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(([key, tap, hold]) => (
              <tr key={key}>
                <td className="fw-bold py-1">{key}</td>
                <td>{tap}</td>
                <td>{hold}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Modal.Body>
    </Modal>
  );
}
