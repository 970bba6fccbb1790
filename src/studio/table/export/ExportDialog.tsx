"use client";

import { useCallback, useRef, useState } from "react";
import { Modal } from "react-bootstrap";
import { lostToOthers } from "../../../engine/file/openraster/plan";
import { type Sizing } from "../../../engine/file/print/resized-rows";
import { type Tones } from "../../../engine/file/print/tones";
import { type Layer } from "../../../engine/picture/picture";
import { type ExportedFile } from "../../../worker/protocol";
import { download } from "../../files/download";
import { type Unit, units } from "../../files/lengths";
import { tell } from "../../notices/notices";
import { whyOf } from "../../notices/why";
import { WorkBar } from "../../progress/WorkBar";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useTable } from "../table-store";
import {
  canBeClear,
  canBeDeep,
  canBeRepainted,
  canBeResized,
  choiceOf,
  type ExportForm,
  firstForm,
  type Format,
  inUnit,
  isPaintedAnew,
  isPixels,
  namedAfter,
  sizeOf,
  tonesOf,
} from "./export-form";
import { ExportPreview } from "./ExportPreview";
import { useKeptExports } from "./kept-exports";
import { KeptExports } from "./KeptExports";
import { renderOnServer } from "./server-render";

const formats: { format: Format; label: string; about: string }[] = [
  { format: "png", label: "PNG", about: "Exact pixels, for print and for screens." },
  { format: "jpeg", label: "JPEG", about: "Small, for mail and the web. Loses a little." },
  { format: "webp", label: "WebP", about: "Smaller still, for the web." },
  { format: "tiff", label: "TIFF", about: "For printers; each layer on a page, if you like." },
  { format: "pdf", label: "PDF", about: "A page in mm, with bleed; lines stay curves." },
  { format: "ora", label: "OpenRaster", about: "With all layers, for other programs." },
  { format: "svg", label: "SVG", about: "Line layers as curves, sharp at any size." },
  { format: "log", label: "Work log", about: "Every stroke, to paint it again here." },
];

const TONES: Record<Tones, string> = {
  colour: "Colour",
  grey: "Greys",
  "black-and-white": "Black and white",
};
const SIZINGS: Record<Sizing, string> = {
  crisp: "crisp (Lanczos)",
  soft: "soft (Mitchell)",
  mean: "mean of what is covered",
  nearest: "nearest, pixels stay",
};

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

type Part = { form: ExportForm; set: (changes: Partial<ExportForm>) => void };

/** What of the colours is kept, how deep, on what ground, and what becomes of halftones. */
function ColourPart({ form, set, hasDots }: Part & { hasDots: boolean }) {
  const kinds = tonesOf(form.format);
  return (
    <>
      <Choice
        label="Colours"
        of={kinds.map((kind) => [kind, TONES[kind]] as const)}
        value={kinds.includes(form.tones) ? form.tones : "colour"}
        choose={(tones) => set({ tones })}
      />
      <div className="d-flex flex-wrap gap-3 align-items-center">
        {canBeDeep(form) && (
          <label className="d-flex gap-2 align-items-center">
            Depth
            <select
              className="form-select form-select-sm"
              value={form.depth}
              onChange={(event) => set({ depth: event.target.value === "16" ? 16 : 8 })}
            >
              <option value="8">8 bits</option>
              <option value="16">16 bits</option>
            </select>
          </label>
        )}
        {canBeClear(form) && (
          <Tick on={form.ground} set={(ground) => set({ ground })}>
            With the ground
          </Tick>
        )}
        {hasDots && !form.resized && (
          <Tick
            on={!form.dots}
            set={(greys) => set({ dots: !greys })}
            title="For screens: dots of print make a pattern of their own there"
          >
            Halftones as greys
          </Tick>
        )}
      </div>
      {form.tones === "black-and-white" && kinds.includes("black-and-white") && (
        <p className="quiet mb-0">
          One bit a pixel, at the picture’s own size: dots stay as they were screened. Greys without
          a halftone turn black or white at the middle.
        </p>
      )}
    </>
  );
}

/** At what size it goes out. */
function SizePart({ form, set, picture }: Part & { picture: Sheet }) {
  const size = sizeOf(form, picture);
  return (
    <div className="d-grid gap-2">
      {canBeRepainted(form) && !form.resized && (
        <label className="d-flex gap-2 align-items-center">
          Size
          <select
            className="form-select form-select-sm"
            style={{ width: "auto" }}
            value={form.repaint}
            onChange={(event) => set({ repaint: Number(event.target.value) })}
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
      {canBeResized(form) && form.repaint === 1 && (
        <Tick on={form.resized} set={(resized) => set({ resized })}>
          At another size
        </Tick>
      )}
      {form.resized && canBeResized(form) && (
        <div className="d-flex flex-wrap gap-2 align-items-center">
          <input
            type="number"
            className="form-control form-control-sm"
            style={{ width: 92 }}
            aria-label="Width"
            min={1}
            step="any"
            value={Number.isFinite(form.width) ? form.width : ""}
            onChange={(event) => set({ width: event.target.valueAsNumber })}
          />
          <select
            className="form-select form-select-sm"
            style={{ width: 68 }}
            aria-label="Unit"
            value={form.unit}
            onChange={(event) => set(inUnit(form, event.target.value as Unit))}
          >
            {units.map((unit) => (
              <option key={unit}>{unit}</option>
            ))}
          </select>
          wide
          {form.unit !== "px" && (
            <>
              at
              <input
                type="number"
                className="form-control form-control-sm"
                style={{ width: 76 }}
                aria-label="Pixels an inch"
                min={1}
                max={9600}
                value={form.ppi}
                onChange={(event) =>
                  set({ ppi: Math.min(9600, Math.max(1, event.target.valueAsNumber || 1)) })
                }
              />
              ppi
            </>
          )}
          <select
            className="form-select form-select-sm"
            style={{ width: "auto" }}
            aria-label="How pixels are made"
            value={form.sizing}
            onChange={(event) => set({ sizing: event.target.value as Sizing })}
          >
            {(Object.keys(SIZINGS) as Sizing[]).map((sizing) => (
              <option key={sizing} value={sizing}>
                {SIZINGS[sizing]}
              </option>
            ))}
          </select>
          <span className={typeof size === "string" ? "" : "quiet"} role="status">
            {typeof size === "string" ? size : size && `${size.width} × ${size.height} px`}
          </span>
        </div>
      )}
    </div>
  );
}

type Sheet = { width: number; height: number };

/** A page for print: where it is cut, and what stays a curve. */
function PagePart({ form, set, hasLines }: Part & { hasLines: boolean }) {
  const { page } = form;
  const setPage = (changes: Partial<ExportForm["page"]>): void =>
    set({ page: { ...page, ...changes } });
  return (
    <div className="d-flex flex-wrap gap-3 align-items-center">
      <label className="d-flex gap-2 align-items-center">
        Bleed on the sheet, mm
        <input
          type="number"
          className="form-control form-control-sm"
          style={{ width: 70 }}
          min={0}
          max={50}
          step={0.5}
          value={page.bleed}
          onChange={(event) =>
            setPage({ bleed: Math.min(50, Math.max(0, event.target.valueAsNumber || 0)) })
          }
        />
      </label>
      <Tick on={page.marks} set={(marks) => setPage({ marks })}>
        Crop marks
      </Tick>
      {hasLines && form.tones === "colour" && (
        <Tick
          on={page.curves}
          set={(curves) => setPage({ curves })}
          title="Clean lines on line layers at the top of the stack"
        >
          Lines on top stay curves
        </Tick>
      )}
    </div>
  );
}

export function ExportDialog({ session }: { session: Session }) {
  const picture = useTable((state) => state.picture);
  const progress = useTable((state) => state.progress);
  const [form, setForm] = useState<ExportForm>(() =>
    firstForm(picture?.ppi ?? 300, picture?.width ?? 1),
  );
  const kept = useKeptExports((state) => state.list);
  const ticked = kept.filter(({ runs }) => runs);
  const [busy, setBusy] = useState(false);
  const stop = useRef<AbortController | null>(null);
  const made = useRef<{ choice: string; file: ExportedFile } | null>(null);
  const keepMade = useCallback((choice: string, file: ExportedFile) => {
    made.current = { choice, file };
  }, []);
  if (!picture) return null;
  const { format } = form;
  const set = (changes: Partial<ExportForm>): void => setForm({ ...form, ...changes });
  const close = (): void => useTable.setState({ dialog: null, progress: null });
  const onServer = isPaintedAnew(form);
  const choice = choiceOf(form, picture);
  const hasLines = picture.layers.some(({ kind }) => kind === "lines");
  const linesOnTop = picture.layers.findLast(({ visible }) => visible)?.kind === "lines";
  const hasDots = picture.layers.some(({ halftone, visible }) => visible && halftone?.on);
  const isWrong = typeof sizeOf(form, picture) === "string";

  const paintLarger = async (own: ExportForm): Promise<ExportedFile | null> => {
    const log = await session.exportFile({ format: "log" });
    if (!log || (own.format !== "png" && own.format !== "ora")) return null;
    const tellShare = (share: number): void =>
      useTable.setState({ progress: { label: "Painting larger", share } });
    stop.current = new AbortController();
    const { format: kind, repaint: scale } = own;
    const asked = { format: kind, scale };
    const bytes = await renderOnServer(log.bytes, asked, stop.current.signal, tellShare);
    return {
      name: `${picture.title} ×${scale}.${kind}`,
      type: "application/octet-stream",
      bytes,
    };
  };

  const write = async (own: ExportForm): Promise<ExportedFile | null> => {
    if (isPaintedAnew(own)) return paintLarger(own);
    const wanted = choiceOf(own, picture);
    // The file that is looked at is the one that is written.
    const looked = made.current?.choice === JSON.stringify(wanted) ? made.current.file : null;
    return looked ?? session.exportFile(wanted);
  };

  /** Works while it is told how far it has come; says why where it came to nothing. */
  const working = async (work: () => Promise<void>): Promise<void> => {
    setBusy(true);
    try {
      await work();
    } catch (error) {
      const aborted = error instanceof DOMException && error.name === "AbortError";
      tell(aborted ? "Stopped. Nothing was written." : `Not exported: ${whyOf(error)}.`);
    } finally {
      setBusy(false);
      useTable.setState({ progress: null });
    }
  };

  const run = (): Promise<void> =>
    working(async () => {
      const file = await write(form);
      if (!file) return;
      download(file);
      tell(`“${file.name}” was handed to your downloads.`);
      close();
    });

  const runTicked = (): Promise<void> =>
    working(async () => {
      let count = 0;
      for (const { name, form: kept } of ticked) {
        const wrong = sizeOf(kept, picture);
        if (typeof wrong === "string") {
          tell(`“${name}” was left out. ${wrong}`);
          continue;
        }
        const file = await write(kept);
        if (!file) return;
        download({ ...file, name: namedAfter(file.name, name) });
        count++;
      }
      if (count > 0)
        tell(`${count === 1 ? "1 file was" : `${count} files were`} handed to your downloads.`);
      close();
    });

  return (
    <Modal
      aria-label="Export"
      className="export"
      show
      size="lg"
      onHide={busy ? undefined : close}
      animation={false}
      backdrop={busy ? "static" : true}
    >
      <Modal.Header closeButton={!busy}>
        <Modal.Title>Export</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <div className="formats">
          <div role="radiogroup" aria-label="Format" className="formats">
            {formats.map(({ format: own, label, about }) => (
              <label key={own} className="d-flex gap-2 align-items-baseline">
                <input
                  type="radio"
                  className="form-check-input mt-0"
                  name="format"
                  checked={format === own}
                  onChange={() => set({ format: own })}
                />
                <span>
                  <b>{label}</b> <span className="quiet">{about}</span>
                </span>
              </label>
            ))}
          </div>
          <KeptExports
            form={form}
            label={formats.find((one) => one.format === format)?.label ?? ""}
            take={setForm}
          />
        </div>
        <div className="d-grid gap-3 align-content-start">
          {isPixels(format) && !onServer && (
            <>
              <ExportPreview
                session={session}
                choice={choice}
                pixels={picture.width * picture.height}
                made={keepMade}
              />
              <ColourPart form={form} set={set} hasDots={hasDots} />
            </>
          )}
          {(format === "jpeg" || format === "webp") && (
            <label>
              Quality {Math.round(form.quality * 100)}
              <input
                type="range"
                className="swell"
                min={0.3}
                max={1}
                step={0.01}
                value={form.quality}
                onChange={(event) => set({ quality: Number(event.target.value) })}
              />
            </label>
          )}
          {format === "tiff" && (
            <Tick on={form.pages} set={(pages) => set({ pages })}>
              A page for the whole and for each layer that is seen
            </Tick>
          )}
          {format === "pdf" && <PagePart form={form} set={set} hasLines={linesOnTop} />}
          {format === "svg" && (
            <p className="quiet mb-0">
              {hasLines
                ? "Line layers that are seen go out: lines of one width as strokes, others as outlines. Paint and a brush’s texture stay behind."
                : "This picture has no line layer. Add one in the list at the left, and draw on it."}
            </p>
          )}
          {format === "log" && (
            <p className="quiet mb-0">
              The picture as the work that made it, in plain text: to be painted again here, at any
              size, or by the command line.
            </p>
          )}
          {format === "ora" && !onServer && (
            <ForOthers
              layers={picture.layers}
              raised={picture.raised}
              merges={form.merges}
              setMerges={(merges) => set({ merges })}
            />
          )}
          <SizePart form={form} set={set} picture={picture} />
          {onServer && (
            <p className="quiet mb-0">
              Every stroke is drawn again at this size by the program that serves this page. It
              needs more memory than a tab has; nothing is kept there.
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
        </div>
      </Modal.Body>
      <Modal.Footer>
        <button type="button" className="btn" onClick={close} disabled={busy}>
          Back
        </button>
        {ticked.length > 0 && (
          <button type="button" className="btn" onClick={() => void runTicked()} disabled={busy}>
            Export the ticked ({ticked.length})
          </button>
        )}
        <button
          type="button"
          className="btn btn-strong"
          onClick={() => void run()}
          disabled={busy || isWrong}
        >
          Export
        </button>
      </Modal.Footer>
    </Modal>
  );
}
