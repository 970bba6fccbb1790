"use client";

import { MOST_PIXELS, MOST_SIDE } from "../../../engine/picture/size";
import { fromPixels, toPixels, type Unit, units } from "../../files/lengths";
import { Choice } from "../../ui/Choice";
import { FloatingPanel } from "../../ui/FloatingPanel";
import { NumberField } from "../../ui/NumberField";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { type Frame, turnedInside, wholeFrame, withProportion } from "./frame";
import {
  closeSheet,
  cutSheet,
  frameAroundPaint,
  frameAroundSelection,
  type SheetWay,
  useSheet,
} from "./sheet-store";

const DEGREE = Math.PI / 180;
/** Farthest that a sheet is straightened, degrees. */
const FARTHEST = 45;

const PROPORTIONS: readonly (readonly [name: string, of: number | null])[] = [
  ["free", null],
  ["1 : 1", 1],
  ["5 : 4", 5 / 4],
  ["4 : 3", 4 / 3],
  ["3 : 2", 3 / 2],
  ["16 : 9", 16 / 9],
  ["√2 : 1", Math.SQRT2],
];

function UnitSelect({ ppi }: { ppi: number }) {
  const { unit, width } = useSheet();
  return (
    <select
      className="form-select form-select-sm"
      aria-label="Unit"
      value={unit}
      onChange={(event) => {
        const next = event.target.value as Unit;
        useSheet.setState({ unit: next, width: fromPixels(toPixels(width, unit, ppi), next, ppi) });
      }}
    >
      {units.map((one) => (
        <option key={one}>{one}</option>
      ))}
    </select>
  );
}

/** Whether a sheet of a size can be, in words where it cannot. */
function whyNot(width: number, height: number): string | null {
  if (Math.max(width, height) > MOST_SIDE) return `A side has at most ${MOST_SIDE} px.`;
  if (width * height > MOST_PIXELS) return `A sheet has at most ${MOST_PIXELS / 1e6} million px.`;
  return null;
}

function Cut({
  session,
  sheet,
}: {
  session: Session;
  sheet: { width: number; height: number; ppi: number };
}) {
  const { frame, proportion, unit } = useSheet();
  const isSelected = useTable((state) => state.picture?.selection ?? false);
  const set = (changes: Partial<Frame>): void =>
    useSheet.setState({ frame: { ...frame, ...changes } });
  const shown = (px: number): number => fromPixels(px, unit, sheet.ppi);
  const px = (length: number): number =>
    Math.sign(length) * toPixels(Math.abs(length), unit, sheet.ppi) * (length === 0 ? 0 : 1);
  const keepProportion = (name: string): void => {
    const of = PROPORTIONS.find(([own]) => own === name)?.[1] ?? null;
    const upright = of !== null && frame.height > frame.width ? 1 / of : of;
    useSheet.setState({
      proportion: upright,
      frame: upright === null ? frame : withProportion(frame, upright),
    });
  };
  const why = whyNot(frame.width, frame.height);
  const chosen =
    PROPORTIONS.find(
      ([, of]) => of === proportion || (of !== null && proportion === 1 / of),
    )?.[0] ?? "free";
  return (
    <>
      <div className="fields">
        <NumberField
          className="field"
          label="From the left"
          value={shown(frame.left)}
          take={(v) => set({ left: px(v) })}
        />
        <NumberField
          className="field"
          label="From the top"
          value={shown(frame.top)}
          take={(v) => set({ top: px(v) })}
        />
        <NumberField
          className="field"
          label="Width"
          value={shown(frame.width)}
          take={(v) => set({ width: Math.max(1, px(v)) })}
        />
        <NumberField
          className="field"
          label="Height"
          value={shown(frame.height)}
          take={(v) => set({ height: Math.max(1, px(v)) })}
        />
        <label className="field">
          Unit
          <UnitSelect ppi={sheet.ppi} />
        </label>
        <label className="field">
          Proportion
          <select
            className="form-select form-select-sm"
            value={chosen}
            onChange={(event) => keepProportion(event.target.value)}
          >
            {PROPORTIONS.map(([name]) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        </label>
      </div>
      <WideSlide
        label="Turn, degrees"
        least={-FARTHEST}
        most={FARTHEST}
        step={0.1}
        value={frame.angle / DEGREE}
        set={(degrees) =>
          useSheet.setState({ frame: turnedInside(sheet, frame, degrees * DEGREE) })
        }
      />
      <div className="steps">
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => useSheet.setState({ frame: wholeFrame(sheet), proportion: null })}
        >
          The whole
        </button>
        <button type="button" className="btn btn-sm" onClick={() => void frameAroundPaint(session)}>
          To the paint
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!isSelected}
          onClick={() => void frameAroundSelection(session)}
        >
          To the selection
        </button>
      </div>
      <p className="quiet mb-0">
        {why ??
          `${frame.width} × ${frame.height} px. Drag the frame on the picture; beyond its edges the sheet is extended. What is wet dries.`}
      </p>
      <footer>
        <button type="button" className="btn" onClick={closeSheet}>
          Back
        </button>
        <button
          type="button"
          className="btn btn-strong"
          disabled={why !== null}
          onClick={() => void cutSheet(session)}
        >
          Cut the sheet
        </button>
      </footer>
    </>
  );
}

function Resize({
  session,
  sheet,
}: {
  session: Session;
  sheet: { width: number; height: number; ppi: number };
}) {
  const { width, unit, ppi, filter } = useSheet();
  const px = toPixels(width, unit, ppi);
  const height = Math.max(1, Math.round((px * sheet.height) / sheet.width));
  const why = whyNot(px, height);
  const run = async (): Promise<void> => {
    if (await session.apply({ do: "sheet.resize", width: px, ppi, filter })) closeSheet();
  };
  return (
    <>
      <div className="fields">
        <NumberField
          className="field"
          label="Width"
          value={width}
          take={(v) => v > 0 && useSheet.setState({ width: v })}
        />
        <label className="field">
          Unit
          <UnitSelect ppi={ppi} />
        </label>
        <NumberField
          className="field"
          label="Pixels an inch"
          value={ppi}
          take={(v) => useSheet.setState({ ppi: Math.min(9600, Math.max(1, v)) })}
        />
        <label className="field">
          Made anew
          <select
            className="form-select form-select-sm"
            value={filter}
            onChange={(event) =>
              useSheet.setState({
                filter: event.target.value === "lanczos" ? "lanczos" : "bicubic",
              })
            }
          >
            <option value="lanczos">crisp</option>
            <option value="bicubic">smooth</option>
          </select>
        </label>
      </div>
      <p className="quiet mb-0">
        {why ??
          `${px} × ${height} px, ${Math.round((px / sheet.width) * 1000) / 10}% of what it is. Lines stay lines. To keep every stroke crisp, export it “painted anew” instead.`}
      </p>
      <footer>
        <button type="button" className="btn" onClick={closeSheet}>
          Back
        </button>
        <button
          type="button"
          className="btn btn-strong"
          disabled={why !== null || px === sheet.width}
          onClick={() => void run()}
        >
          Resize
        </button>
      </footer>
    </>
  );
}

function OnPaper({
  session,
  sheet,
}: {
  session: Session;
  sheet: { width: number; height: number; ppi: number };
}) {
  const { ppi } = useSheet();
  const mm = (px: number): number => fromPixels(px, "mm", ppi);
  const run = async (): Promise<void> => {
    if (await session.apply({ do: "sheet.ppi", ppi })) closeSheet();
  };
  return (
    <>
      <div className="fields">
        <NumberField
          className="field"
          label="Pixels an inch"
          value={ppi}
          take={(v) => useSheet.setState({ ppi: Math.min(9600, Math.max(1, v)) })}
        />
      </div>
      <p className="quiet mb-0">
        {mm(sheet.width)} × {mm(sheet.height)} mm on paper. No pixel changes; halftones keep their
        lines an inch.
      </p>
      <footer>
        <button type="button" className="btn" onClick={closeSheet}>
          Back
        </button>
        <button
          type="button"
          className="btn btn-strong"
          disabled={ppi === sheet.ppi}
          onClick={() => void run()}
        >
          Set
        </button>
      </footer>
    </>
  );
}

const WAYS: readonly (readonly [SheetWay, string])[] = [
  ["cut", "Crop, extend"],
  ["resize", "Resize"],
  ["on paper", "On paper"],
];

/** What is done to the sheet itself. */
export function SheetPanel({ session }: { session: Session }) {
  const way = useSheet((state) => state.way);
  const picture = useTable((state) => state.picture);
  if (!way || !picture) return null;
  return (
    <FloatingPanel title="The sheet" className="adjust-panel sheet-panel">
      <Choice
        label="What is done to the sheet"
        of={WAYS}
        value={way}
        choose={(next) => useSheet.setState({ way: next })}
      />
      {way === "cut" && <Cut session={session} sheet={picture} />}
      {way === "resize" && <Resize session={session} sheet={picture} />}
      {way === "on paper" && <OnPaper session={session} sheet={picture} />}
    </FloatingPanel>
  );
}
