"use client";

import { useState } from "react";
import { Modal } from "react-bootstrap";
import { GroundChoice, PaperChoice, type PaperLook } from "../paper/PaperChoice";
import { paperFromFile } from "../paper/paper-from-file";
import { type Session } from "./session";
import { useTable } from "./table-store";

/** The sheet's ground and paper. */
export function PaperDialog({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const [ground, setGround] = useState(picture?.ground ?? "#ffffff");
  const [paper, setPaper] = useState<PaperLook>({
    kind: picture?.paper.kind ?? "hot-pressed",
    picture: picture?.paper.picture,
  });
  const [scale, setScale] = useState(picture?.paper.scale ?? 1);
  const close = (): void => useTable.setState({ dialog: null });
  if (!picture) return null;
  const keep = (): void => {
    close();
    void session.apply({ do: "picture.set", ground, paper: { ...paper, scale } });
  };
  const fromPicture = async (file: File): Promise<void> => {
    const made = await paperFromFile(session.link.api, file);
    if (made) setPaper(made);
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
        <PaperChoice
          paper={paper}
          ground={ground}
          choose={setPaper}
          fromPicture={(file) => void fromPicture(file)}
        />
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
