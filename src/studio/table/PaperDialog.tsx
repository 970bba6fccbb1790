"use client";

import { useState } from "react";
import { Modal } from "react-bootstrap";
import { GroundChoice, PaperChoice } from "../paper/PaperChoice";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** The sheet's ground and paper. */
export function PaperDialog({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const [ground, setGround] = useState(picture?.ground ?? "#ffffff");
  const [kind, setKind] = useState(picture?.paper.kind ?? "hot-pressed");
  const [scale, setScale] = useState(picture?.paper.scale ?? 1);
  const close = (): void => useTable.setState({ dialog: null });
  if (!picture) return null;
  const keep = (): void => {
    close();
    void session.apply({ do: "picture.set", ground, paper: { kind, scale } });
  };
  return (
    <Modal aria-label="Ground and paper" show onHide={close} animation={false}>
      <Modal.Header closeButton>
        <Modal.Title>Ground and paper</Modal.Title>
      </Modal.Header>
      <Modal.Body className="ground-form">
        <h3>Ground</h3>
        <GroundChoice ground={ground} choose={setGround} />
        <h3>Paper</h3>
        <PaperChoice kind={kind} ground={ground} choose={setKind} />
        <label>
          Size of the grain × {scale}
          <input
            type="range"
            className="swell"
            min={0.25}
            max={4}
            step={0.25}
            value={scale}
            onChange={(event) => setScale(Number(event.target.value))}
          />
        </label>
        <p className="quiet mb-0">
          Marks that are already drawn keep the grain that they were drawn on.
        </p>
      </Modal.Body>
      <Modal.Footer>
        <button type="button" className="btn" onClick={close}>
          Leave as it is
        </button>
        <button type="button" className="btn btn-strong" onClick={keep}>
          Keep
        </button>
      </Modal.Footer>
    </Modal>
  );
}
