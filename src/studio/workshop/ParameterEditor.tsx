"use client";

import { Plus, X } from "lucide-react";
import { useId } from "react";
import {
  type Drive,
  type Driver,
  drivers,
  MOST_DRIVES,
  type Parameter,
  ways,
} from "../../engine/stroke/drives";
import { CurveEditor } from "../curve/CurveEditor";
import { newDrive, scatterOf, scattered } from "./scatter";

const driverNames: Record<Driver, string> = {
  pressure: "Pressure",
  tilt: "Tilt",
  "tilt direction": "Tilt direction",
  "barrel turn": "Turn of the barrel",
  speed: "Speed",
  "stroke direction": "Stroke direction",
  distance: "Distance",
  taper: "Taper",
  "chance of a mark": "Chance, each mark",
  "chance of a stroke": "Chance, each stroke",
};

const wayNames: Record<Drive["how"], string> = {
  multiply: "multiplies",
  add: "adds",
  larger: "larger wins",
};

type Scale = {
  least: number;
  most: number;
  step: number;
  /** What a unit is called, after the number. */
  unit?: string;
  /** How the number is shown: 100 for percent. */
  times?: number;
};

type NumberRowProps = Scale & {
  label: string;
  value: number;
  onChange: (value: number) => void;
};

/** One number: a slider, and a field for the exact value. */
export function NumberRow({
  label,
  value,
  least,
  most,
  step,
  unit,
  times = 1,
  onChange,
}: NumberRowProps) {
  const id = useId();
  const shown = Math.round(value * times * 1000) / 1000;
  const change = (text: string): void => {
    const number = Number(text) / times;
    if (text !== "" && Number.isFinite(number)) onChange(Math.min(most, Math.max(least, number)));
  };
  return (
    <div className="number-row">
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        type="range"
        className="swell even"
        min={least * times}
        max={most * times}
        step={step * times}
        value={shown}
        onChange={(event) => change(event.target.value)}
      />
      <input
        type="number"
        className="form-control form-control-sm"
        aria-label={`${label}, exactly`}
        min={least * times}
        max={most * times}
        step="any"
        value={shown}
        onChange={(event) => change(event.target.value)}
      />
      <span className="quiet">{unit}</span>
    </div>
  );
}

/** What the edges of a curve mean, so that all of it is in sight. */
function edges(drive: Drive, span: number): { least: number; most: number } {
  const ys = drive.curve.map(([, y]) => y);
  if (drive.how === "add") {
    const reach = Math.max(span, ...ys.map(Math.abs));
    return { least: -reach, most: reach };
  }
  return { least: Math.min(0, ...ys), most: Math.max(drive.how === "larger" ? span : 1.5, ...ys) };
}

function DriveEditor({
  name,
  drive,
  span,
  onChange,
  onRemove,
}: {
  name: string;
  drive: Drive;
  span: number;
  onChange: (drive: Drive) => void;
  onRemove: () => void;
}) {
  return (
    <div className="drive">
      <div className="choices">
        <select
          className="form-select form-select-sm"
          aria-label={`${name}: driven by`}
          value={drive.by}
          onChange={(event) => onChange({ ...drive, by: event.target.value as Driver })}
        >
          {(Object.keys(drivers) as Driver[]).map((by) => (
            <option key={by} value={by}>
              {driverNames[by]}
            </option>
          ))}
        </select>
        <select
          className="form-select form-select-sm"
          aria-label={`${name}: how ${driverNames[drive.by]} joins`}
          value={drive.how}
          onChange={(event) => onChange({ ...drive, how: event.target.value as Drive["how"] })}
        >
          {ways.map((how) => (
            <option key={how} value={how}>
              {wayNames[how]}
            </option>
          ))}
        </select>
        {drive.by === "distance" && (
          <label className="over">
            over
            <input
              type="number"
              className="form-control form-control-sm"
              min={0.1}
              max={10000}
              value={drive.over}
              onChange={(event) => {
                const over = Number(event.target.value);
                if (over >= 0.1) onChange({ ...drive, over: Math.min(10_000, over) });
              }}
            />
            sizes
          </label>
        )}
        <button
          type="button"
          className="btn btn-sm"
          aria-label={`${name}: no longer driven by ${driverNames[drive.by]}`}
          onClick={onRemove}
        >
          <X size={14} /> Take off
        </button>
      </div>
      <CurveEditor
        label={`${name} by ${driverNames[drive.by]}`}
        curve={drive.curve}
        {...edges(drive, span)}
        onChange={(curve) => onChange({ ...drive, curve })}
      />
    </div>
  );
}

type ParameterEditorProps = Scale & {
  label: string;
  value: Parameter;
  /** How far a curve that adds may reach at first. */
  span?: number;
  onChange: (value: Parameter) => void;
};

/** How far marks are thrown: an amount that scatters by chance, and what drives it. */
export function ScatterEditor({ value, onChange, ...scale }: ParameterEditorProps) {
  const scatter = scatterOf(value);
  if (!scatter) return <ParameterEditor {...scale} value={value} onChange={onChange} />;
  const { amount, rest } = scatter;
  return (
    <ParameterEditor
      {...scale}
      least={0}
      value={{ base: amount, drives: rest }}
      onChange={({ base, drives }) => onChange(scattered(base, drives))}
    />
  );
}

/** One parameter: its base, and everything that drives it. */
export function ParameterEditor({ value, onChange, span, ...scale }: ParameterEditorProps) {
  const { label, most } = scale;
  const { drives } = value;
  const reach = span ?? most;
  const change = (index: number, drive: Drive): void =>
    onChange({ ...value, drives: drives.map((other, i) => (i === index ? drive : other)) });
  return (
    <section className="parameter" aria-label={label}>
      <NumberRow {...scale} value={value.base} onChange={(base) => onChange({ ...value, base })} />
      {drives.map((drive, i) => (
        <DriveEditor
          key={i}
          name={label}
          drive={drive}
          span={reach}
          onChange={(next) => change(i, next)}
          onRemove={() => onChange({ ...value, drives: drives.filter((_, j) => j !== i) })}
        />
      ))}
      {drives.length < MOST_DRIVES && (
        <button
          type="button"
          className="btn btn-sm add-drive"
          aria-label={`${label}: add a driver`}
          onClick={() =>
            onChange({
              ...value,
              drives: [...drives, newDrive(value, reach)],
            })
          }
        >
          <Plus size={13} /> Driver
        </button>
      )}
    </section>
  );
}
