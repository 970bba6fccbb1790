"use client";

import { whyOf } from "../notices/why";
import { useRef, useState } from "react";
import { Modal } from "react-bootstrap";
import { lostToOthers } from "../../engine/file/openraster/plan";
import { type Layer } from "../../engine/picture/picture";
import { type ExportChoice, type ExportedFile } from "../../worker/protocol";
import { WorkBar } from "../progress/WorkBar";
import { download } from "../files/download";
import { tell } from "../notices/notices";
import { renderOnServer } from "./server-render";
import { Tick } from "./panel/Tick";
import { type Session } from "./session";
import { useTable } from "./table-store";

type Format = ExportChoice["format"];

const formats: { format: Format; label: string; about: string }[] = [
  { format: "png", label: "PNG", about: "Exact pixels, sRGB, with the size on paper." },
  { format: "jpeg", label: "JPEG", about: "Small, for mail and the web. Loses a little." },
  { format: "webp", label: "WebP", about: "Smaller still, for the web." },
  { format: "ora", label: "OpenRaster", about: "With all layers, for other painting programs." },
  { format: "svg", label: "SVG", about: "Line layers as curves, sharp at any size." },
  { format: "log", label: "Work log", about: "Every stroke, to paint it again here." },
];

function choiceOf(
  format: Format,
  depth: 8 | 16,
  ground: boolean,
  quality: number,
  merges: boolean,
): ExportChoice {
  if (format === "png") return { format, depth, ground };
  if (format === "jpeg" || format === "webp") return { format, quality };
  return format === "ora" ? { format, merges } : { format };
}

/** What becomes of a picture in a format that knows less than we do. */
function ForOthers({
  layers,
  raised,
  merges,
  setMerges,
}: {
  layers: readonly Layer[];
  raised: readonly string[];
  merges: boolean;
  setMerges: (merges: boolean) => void;
}) {
  const lost = lostToOthers({ layers }, merges, raised);
  return (
    <div className="d-grid gap-2">
      <Tick on={merges} set={setMerges}>
        Looks the same everywhere
      </Tick>
      {lost.length > 0 && (
        <div className="quiet">
          In other programs (Pampas brings back what is not said to be for good):
          <ul className="mb-0 ps-3" aria-label="Changed for other programs">
            {lost.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

export function ExportDialog({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const progress = useTable((state) => state.progress);
  const [format, setFormat] = useState<Format>("png");
  const [depth, setDepth] = useState<8 | 16>(8);
  const [ground, setGround] = useState(true);
  const [quality, setQuality] = useState(0.9);
  const [scale, setScale] = useState(1);
  const [merges, setMerges] = useState(true);
  const [busy, setBusy] = useState(false);
  const stop = useRef<AbortController | null>(null);
  if (!picture) return null;
  const close = (): void => useTable.setState({ dialog: null, progress: null });
  const canScale = format === "png" || format === "ora";
  const onServer = canScale && scale > 1;

  const paintLarger = async (): Promise<ExportedFile | null> => {
    const log = await session.exportFile({ format: "log" });
    if (!log || (format !== "png" && format !== "ora")) return null;
    const tellShare = (share: number): void =>
      useTable.setState({ progress: { label: "Painting larger", share } });
    stop.current = new AbortController();
    const bytes = await renderOnServer(
      log.bytes,
      { format, scale },
      stop.current.signal,
      tellShare,
    );
    const extension = format === "png" ? "png" : "ora";
    return {
      name: `${picture.title} ×${scale}.${extension}`,
      type: "application/octet-stream",
      bytes,
    };
  };

  const run = async (): Promise<void> => {
    setBusy(true);
    try {
      const file = onServer
        ? await paintLarger()
        : await session.exportFile(choiceOf(format, depth, ground, quality, merges));
      if (!file) return;
      download(file);
      tell(`“${file.name}” was handed to your downloads.`);
      close();
    } catch (error) {
      const aborted = error instanceof DOMException && error.name === "AbortError";
      tell(aborted ? "Stopped. Nothing was written." : `Not exported: ${whyOf(error)}.`);
    } finally {
      setBusy(false);
      useTable.setState({ progress: null });
    }
  };

  return (
    <Modal
      aria-label="Export"
      show
      onHide={busy ? undefined : close}
      animation={false}
      backdrop={busy ? "static" : true}
    >
      <Modal.Header closeButton={!busy}>
        <Modal.Title>Export</Modal.Title>
      </Modal.Header>
      <Modal.Body className="d-grid gap-3">
        <div role="radiogroup" aria-label="Format" className="d-grid gap-1">
          {formats.map(({ format: own, label, about }) => (
            <label key={own} className="d-flex gap-2 align-items-center">
              <input
                type="radio"
                className="form-check-input mt-0"
                name="format"
                checked={format === own}
                onChange={() => setFormat(own)}
              />
              <span>
                <b>{label}</b> <span className="quiet">{about}</span>
              </span>
            </label>
          ))}
        </div>
        {format === "png" && scale === 1 && (
          <div className="d-flex gap-4">
            <label className="d-flex gap-2 align-items-center">
              Depth
              <select
                className="form-select form-select-sm"
                value={depth}
                onChange={(event) => setDepth(event.target.value === "16" ? 16 : 8)}
              >
                <option value="8">8 bits</option>
                <option value="16">16 bits</option>
              </select>
            </label>
            <label className="d-flex gap-2 align-items-center">
              <input
                type="checkbox"
                className="form-check-input mt-0"
                checked={ground}
                onChange={(event) => setGround(event.target.checked)}
              />
              With the ground
            </label>
          </div>
        )}
        {format === "svg" && (
          <p className="quiet mb-0">
            {picture.layers.some(({ kind }) => kind === "lines")
              ? "Line layers that are seen go out: lines of one width as strokes, others as outlines. Paint and a brush’s texture stay behind."
              : "This picture has no line layer. Add one in the list at the left, and draw on it."}
          </p>
        )}
        {format === "ora" && !onServer && (
          <ForOthers
            layers={picture.layers}
            raised={picture.raised}
            merges={merges}
            setMerges={setMerges}
          />
        )}
        {(format === "jpeg" || format === "webp") && (
          <label>
            Quality {Math.round(quality * 100)}
            <input
              type="range"
              className="swell"
              min={0.3}
              max={1}
              step={0.01}
              value={quality}
              onChange={(event) => setQuality(Number(event.target.value))}
            />
          </label>
        )}
        {canScale && (
          <label className="d-flex gap-2 align-items-center">
            Size
            <select
              className="form-select form-select-sm"
              style={{ width: "auto" }}
              value={scale}
              onChange={(event) => setScale(Number(event.target.value))}
            >
              {[1, 2, 3, 4].map((by) => (
                <option key={by} value={by}>
                  {by === 1 ? "as it is" : `× ${by}, painted anew`}: {picture.width * by} ×{" "}
                  {picture.height * by} px
                </option>
              ))}
            </select>
          </label>
        )}
        {onServer && (
          <p className="quiet mb-0">
            Every stroke is drawn again at this size by the program that serves this page. It needs
            more memory than a tab has; nothing is kept there.
            {picture.otherEngine && ` ${picture.otherEngine}`}
          </p>
        )}
        {busy && (
          <div>
            <div className="d-flex justify-content-between mb-1">
              <span>{progress?.label ?? "Working"}</span>
              <button
                type="button"
                className="btn btn-sm"
                onClick={() => (onServer ? stop.current?.abort() : session.link.pen.askToStop())}
              >
                Stop
              </button>
            </div>
            <WorkBar share={progress?.share ?? 0} />
          </div>
        )}
      </Modal.Body>
      <Modal.Footer>
        <button type="button" className="btn" onClick={close} disabled={busy}>
          Back
        </button>
        <button type="button" className="btn btn-strong" onClick={() => void run()} disabled={busy}>
          Export
        </button>
      </Modal.Footer>
    </Modal>
  );
}
