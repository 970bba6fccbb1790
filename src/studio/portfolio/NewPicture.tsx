"use client";

import { RotateCw } from "lucide-react";
import { useState } from "react";
import { Modal } from "react-bootstrap";
import { MOST_PIXELS, MOST_SIDE } from "../../engine/picture/size";
import { LEAST_FRAMES, MOST_FRAMES } from "../../engine/studies/studies";
import { type NewPicture as Wanted } from "../../worker/new-picture";
import { GroundChoice, PaperChoice, type PaperLook } from "../paper/PaperChoice";
import { fromPixels, sizeInWords, toPixels, type Unit, units } from "../files/lengths";
import { purposes } from "./purposes";

/** Bytes of a painted pixel of a layer. */
const PIXEL_BYTES = 8;
const counts = Array.from({ length: MOST_FRAMES - LEAST_FRAMES + 1 }, (_, i) => LEAST_FRAMES + i);

type Sheet = { width: string; height: string; unit: Unit; ppi: string };

/** What is wrong with a size; null where it will do. */
function faultOf(width: number, height: number, ppi: number): string | null {
  if (!(ppi >= 1 && ppi <= 9600)) return "Give 1 to 9600 pixels an inch.";
  if (!(width >= 1 && height >= 1)) return "Give a width and a height.";
  if (width > MOST_SIDE || height > MOST_SIDE)
    return `A side may have ${MOST_SIDE} px; this is ${width} × ${height}.`;
  if (width * height > MOST_PIXELS)
    return `A picture may have ${MOST_PIXELS / 1e6} million px; this has ${Math.round((width * height) / 1e6)} million.`;
  return null;
}

function Outline({ width, height }: { width: number; height: number }) {
  const scale = 42 / Math.max(width, height);
  return (
    <span className="outline-box">
      <span className="outline" style={{ width: width * scale, height: height * scale }} />
    </span>
  );
}

export function NewPicture({
  hide,
  paperFrom,
  create,
}: {
  hide: () => void;
  /** A paper made of a file's picture; null where it makes none. */
  paperFrom: (file: File) => Promise<PaperLook | null>;
  create: (picture: Wanted) => Promise<void>;
}) {
  const [purpose, setPurpose] = useState(0);
  const [sheet, setSheet] = useState<Sheet>({
    width: "210",
    height: "297",
    unit: "mm",
    ppi: "300",
  });
  const [title, setTitle] = useState("");
  const [ground, setGround] = useState("#f4efe6");
  const [paper, setPaper] = useState<PaperLook>({ kind: "cold-pressed" });
  const [studies, setStudies] = useState(0);
  const [busy, setBusy] = useState(false);
  const ppi = Number(sheet.ppi);
  const width = toPixels(Number(sheet.width) || 0, sheet.unit, ppi);
  const height = toPixels(Number(sheet.height) || 0, sheet.unit, ppi);
  const given = Number(sheet.width) > 0 && Number(sheet.height) > 0;
  const fault = given ? faultOf(width, height, ppi) : "Give a width and a height.";

  const choose = (index: number): void => {
    const chosen = purposes[index];
    setPurpose(index);
    if (chosen)
      setSheet({
        width: String(chosen.width),
        height: String(chosen.height),
        unit: chosen.unit,
        ppi: String(chosen.ppi),
      });
  };
  const changeUnit = (unit: Unit): void =>
    setSheet({
      ...sheet,
      unit,
      width: String(fromPixels(width, unit, ppi)),
      height: String(fromPixels(height, unit, ppi)),
    });
  const field = (name: "width" | "height" | "ppi", label: string) => (
    <label className="flex-fill">
      {label}
      <input
        className="form-control"
        inputMode="decimal"
        value={sheet[name]}
        onChange={(event) => {
          setPurpose(-1);
          setSheet({ ...sheet, [name]: event.target.value.replace(",", ".") });
        }}
      />
    </label>
  );

  const submit = async (): Promise<void> => {
    if (fault) return;
    setBusy(true);
    const name = title.trim() || purposes[purpose]?.name || "Untitled";
    await create({
      title: studies > 0 ? `Studies for ${name}`.slice(0, 200) : name,
      studies,
      width,
      height,
      ppi,
      ground,
      paper: { ...paper, scale: Math.max(0.25, Math.round((ppi / 300) * 4) / 4) },
    });
    setBusy(false);
  };

  return (
    <Modal show onHide={hide} size="lg" animation={false} aria-labelledby="new-picture-title">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title id="new-picture-title">New picture</Modal.Title>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          <div className="purposes" role="radiogroup" aria-label="Purpose">
            {purposes.map(({ name, note, width: w, height: h }, i) => (
              <button
                key={name}
                type="button"
                className="purpose"
                role="radio"
                aria-checked={i === purpose}
                onClick={() => choose(i)}
              >
                <Outline width={w} height={h} />
                {name}
                <small>{note}</small>
              </button>
            ))}
            <button
              type="button"
              className="purpose"
              role="radio"
              aria-checked={purpose === -1}
              onClick={() => setPurpose(-1)}
            >
              <Outline width={given ? width : 4} height={given ? height : 3} />
              Own size
              <small>as given below</small>
            </button>
          </div>
          <div className="d-flex gap-2 align-items-end">
            {field("width", "Width")}
            {field("height", "Height")}
            <label>
              Unit
              <select
                className="form-select"
                value={sheet.unit}
                onChange={(event) => changeUnit(event.target.value as Unit)}
              >
                {units.map((unit) => (
                  <option key={unit}>{unit}</option>
                ))}
              </select>
            </label>
            {field("ppi", "Pixels an inch")}
            <button
              type="button"
              className="btn text-nowrap"
              onClick={() => setSheet({ ...sheet, width: sheet.height, height: sheet.width })}
            >
              <RotateCw size={15} /> {width > height ? "To portrait" : "To landscape"}
            </button>
          </div>
          <div className="d-flex gap-4">
            <label className="flex-fill">
              Title
              <input
                className="form-control"
                value={title}
                maxLength={200}
                placeholder={purposes[purpose]?.name ?? "Untitled"}
                onChange={(event) => setTitle(event.target.value)}
              />
            </label>
            <label>
              Begin with
              <select
                className="form-select"
                value={studies}
                onChange={(event) => setStudies(Number(event.target.value))}
              >
                <option value={0}>the sheet itself</option>
                {counts.map((count) => (
                  <option key={count} value={count}>
                    {count} small studies
                  </option>
                ))}
              </select>
            </label>
            <div>
              <div>Ground</div>
              <GroundChoice ground={ground} choose={setGround} />
            </div>
          </div>
          <div>
            <div className="mb-1">Paper</div>
            <PaperChoice
              paper={paper}
              ground={ground}
              choose={setPaper}
              fromPicture={(file) => void paperFrom(file).then((made) => made && setPaper(made))}
            />
          </div>
          <div className="cost" role="status">
            {fault ? (
              <b>{fault}</b>
            ) : (
              <>
                <b>
                  {width} × {height} px
                </b>
                , {((width * height) / 1e6).toFixed(1)} million. A layer painted all over takes{" "}
                {sizeInWords(width * height * PIXEL_BYTES)} of memory; bare paper takes none.
                {studies > 0 && (
                  <div>
                    First comes a sheet of {studies} small frames of this shape. Carry the best one
                    over, and it becomes a picture of this size.
                  </div>
                )}
              </>
            )}
          </div>
        </Modal.Body>
        <Modal.Footer>
          <button type="button" className="btn" onClick={hide}>
            Back
          </button>
          <button type="submit" className="btn btn-strong" disabled={fault !== null || busy}>
            Lay out the sheet
          </button>
        </Modal.Footer>
      </form>
    </Modal>
  );
}
