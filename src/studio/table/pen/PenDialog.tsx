"use client";

import { useEffect } from "react";
import { Modal } from "react-bootstrap";
import { type Curve } from "../../../engine/stroke/curve";
import {
  type BarrelAct,
  type FingerAct,
  firstPen,
  HOLD,
  type PenSettings,
} from "../../../storage/pen-settings";
import { CurveEditor } from "../../curve/CurveEditor";
import { Choice } from "../../ui/Choice";
import { Tick } from "../../ui/Tick";
import { remember } from "../session";
import { useTable } from "../table-store";
import { curveFor } from "./range";
import { TrialPad } from "./TrialPad";

const barrel: readonly [BarrelAct, string][] = [
  ["pick", "picks a colour"],
  ["pan", "moves the sheet"],
  ["lift", "lifts off"],
  ["blend", "blends"],
  ["undo", "undoes"],
  ["nothing", "nothing"],
];
const fingers: readonly [FingerAct, string][] = [
  ["auto", "draws until a pen comes, then moves the sheet"],
  ["draws", "draws"],
  ["moves", "moves the sheet"],
  ["rests", "nothing"],
];

/** Curves to begin with: how gently a hand may press for the whole of a brush. */
const curves: readonly [string, Curve][] = [
  [
    "Light hand",
    [
      [0, 0],
      [0.3, 0.55],
      [0.7, 1],
      [1, 1],
    ],
  ],
  ["Even", firstPen.curve],
  [
    "Heavy hand",
    [
      [0, 0],
      [0.5, 0.22],
      [1, 1],
    ],
  ],
];

/** How long a setting rests before it is stored, ms: a curve is drawn through many. */
const RESTS = 250;

/** Stores the settings as they are changed, as long as the page is there. */
function useKeeping(): void {
  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let isOld = false;
    const keep = (): void => {
      clearTimeout(waiting);
      if (isOld) void remember({ pen: useTable.getState().pen });
      isOld = false;
    };
    const stop = useTable.subscribe(({ pen }, { pen: before }) => {
      if (pen === before) return;
      isOld = true;
      clearTimeout(waiting);
      waiting = setTimeout(keep, RESTS);
    });
    window.addEventListener("pagehide", keep);
    return () => {
      stop();
      keep();
      window.removeEventListener("pagehide", keep);
    };
  }, []);
}

function Select<T extends string>({
  label,
  of,
  value,
  choose,
}: {
  label: string;
  of: readonly (readonly [T, string])[];
  value: T;
  choose: (value: T) => void;
}) {
  return (
    <label>
      {label}
      <select
        className="form-select form-select-sm"
        value={value}
        onChange={(event) => choose(event.target.value as T)}
      >
        {of.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** How the pen, its buttons, fingers and the hand that draws are felt. */
export function PenDialog() {
  const pen = useTable((state) => state.pen);
  useKeeping();
  const set = (changes: Partial<PenSettings>): void =>
    useTable.setState({ pen: { ...pen, ...changes } });
  return (
    <Modal
      aria-label="Pen and hands"
      className="pen-page"
      size="lg"
      show
      onHide={() => useTable.setState({ dialog: null })}
      animation={false}
    >
      <Modal.Header closeButton>
        <Modal.Title>Pen and hands</Modal.Title>
      </Modal.Header>
      <Modal.Body className="d-grid gap-4">
        <section aria-label="Pressure" className="hands">
          <div>
            <h2>How hard you press</h2>
            <CurveEditor
              label="Pressure that is felt"
              curve={pen.curve}
              least={0}
              most={1}
              onChange={(curve) => set({ curve })}
            />
            <div className="d-flex gap-2 mt-2">
              {curves.map(([name, curve]) => (
                <button
                  key={name}
                  type="button"
                  className="btn btn-sm"
                  onClick={() => set({ curve })}
                >
                  {name}
                </button>
              ))}
            </div>
          </div>
          <TrialPad curve={pen.curve} use={(range) => set({ curve: curveFor(range) })} />
        </section>
        <section aria-label="Pen" className="hands">
          <Select
            label="The lower button, held"
            of={barrel}
            value={pen.lower}
            choose={(lower) => set({ lower })}
          />
          <Select
            label="The upper button, held"
            of={barrel}
            value={pen.upper}
            choose={(upper) => set({ upper })}
          />
          <Select
            label="The pen’s other end"
            of={[
              ["lift", "lifts off"],
              ["blend", "blends"],
            ]}
            value={pen.otherEnd}
            choose={(otherEnd) => set({ otherEnd })}
          />
          <Select
            label="One finger"
            of={fingers}
            value={pen.finger}
            choose={(finger) => set({ finger })}
          />
          <label>
            A hold is longer than {(pen.hold / 1000).toFixed(2)} s
            <input
              type="range"
              className="swell"
              min={HOLD.least}
              max={HOLD.most}
              step={20}
              value={pen.hold}
              onChange={(event) => set({ hold: Number(event.target.value) })}
            />
          </label>
          <div className="d-grid gap-1 align-content-end">
            <Tick
              on={pen.leans}
              set={(leans) => set({ leans })}
              title="Off, every pen is felt as upright"
            >
              Brushes feel how the pen leans
            </Tick>
          </div>
        </section>
        <section aria-label="Hand" className="d-grid gap-1">
          <Choice
            label="The hand that draws"
            of={[
              ["right", "I draw with my right hand"],
              ["left", "I draw with my left hand"],
            ]}
            value={pen.hand}
            choose={(hand) => set({ hand })}
          />
          <p className="quiet mb-0">
            The layers lie at the hand that does not draw. Two fingers move, turn and zoom the
            sheet; pinched quickly they fit it. Tapped, two undo and three redo. While a pen is near
            or a palm lies there, touch changes nothing.
          </p>
        </section>
      </Modal.Body>
      <Modal.Footer>
        <button type="button" className="btn" onClick={() => set(firstPen)}>
          As it was at first
        </button>
      </Modal.Footer>
    </Modal>
  );
}
