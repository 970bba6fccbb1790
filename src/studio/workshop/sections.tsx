"use client";

import { LaysSelect } from "../brushes/LaysSelect";
import { type Brush, isForWash, type Overtip, overtipModes } from "../../engine/stroke/brush";
import { type Parameter } from "../../engine/stroke/drives";
import { LayingSection } from "./LayingSection";
import { NumberRow, ParameterEditor, ScatterEditor } from "./ParameterEditor";
import { TipSection } from "./TipSection";
import { scattered } from "./scatter";
import { type SectionProps } from "./section-props";
import { type SectionName } from "./workshop-store";

const percent = { least: 0, most: 1, step: 0.01, times: 100, unit: "%" };
const turns = { least: -1, most: 1, step: 0.005, times: 360, unit: "°" };
const still: Parameter = { base: 0, drives: [] };
const whole: Parameter = { base: 1, drives: [] };

function SizeSection({ brush, change }: SectionProps) {
  return (
    <>
      <NumberRow
        label="Size to begin with"
        unit="px"
        least={0.5}
        most={2000}
        step={0.5}
        value={brush.size}
        onChange={(size) => change({ size })}
      />
      <ParameterEditor
        label="Size"
        {...percent}
        most={3}
        span={1}
        value={brush.diameter}
        onChange={(diameter) => change({ diameter })}
      />
      <ParameterEditor
        label="Flow"
        {...percent}
        value={brush.flow}
        onChange={(flow) => change({ flow })}
      />
      <NumberRow
        label="Strength"
        {...percent}
        value={brush.strength}
        onChange={(strength) => change({ strength })}
      />
      {!isForWash(brush) && (
        <NumberRow
          label="Water takes up"
          {...percent}
          value={brush.dissolves ?? 0}
          onChange={(share) => change({ dissolves: share > 0 ? share : undefined })}
        />
      )}
      <label className="number-row">
        <span>Works in</span>
        <select
          className="form-select form-select-sm"
          value={brush.does ?? ""}
          onChange={(event) => change({ does: (event.target.value || null) as Brush["does"] })}
        >
          <option value="">Paint, Lift and Blend</option>
          <option value="lift">Lift alone</option>
          <option value="blend">Blend alone</option>
        </select>
      </label>
      <label className="number-row">
        <span>Blends as</span>
        <LaysSelect lays={brush.lays} choose={(lays) => change({ lays })} />
      </label>
      <p className="quiet">
        Flow is what one mark leaves; strength is the most that a stroke can reach, however often it
        crosses itself. What water takes up of it dissolves where a wet brush comes over it on its
        layer.
      </p>
    </>
  );
}

function SpacingSection({ brush, change }: SectionProps) {
  const { scatter } = brush;
  return (
    <>
      <ParameterEditor
        label="Spacing"
        {...percent}
        least={0.01}
        most={4}
        span={1}
        value={brush.spacing}
        onChange={(spacing) => change({ spacing })}
      />
      <ScatterEditor
        label="Scatter along"
        {...percent}
        least={-4}
        most={4}
        span={1}
        value={scatter.along}
        onChange={(along) => change({ scatter: { ...scatter, along } })}
      />
      <ScatterEditor
        label="Scatter across"
        {...percent}
        least={-4}
        most={4}
        span={1}
        value={scatter.across}
        onChange={(across) => change({ scatter: { ...scatter, across } })}
      />
      <p className="quiet">How far chance throws each mark to either side, in its diameters.</p>
    </>
  );
}

function TurnSection({ brush, change }: SectionProps) {
  return (
    <>
      <ParameterEditor
        label="Angle"
        {...turns}
        span={1}
        value={brush.angle}
        onChange={(angle) => change({ angle })}
      />
      <p className="quiet">Let a direction add a whole turn, and the mark follows it.</p>
      <ParameterEditor
        label="Stretch"
        least={1}
        most={12}
        step={0.05}
        span={4}
        unit="×"
        value={brush.stretch}
        onChange={(stretch) => change({ stretch })}
      />
    </>
  );
}

const firstGrain: NonNullable<Brush["grain"]> = {
  depth: 0.8,
  softness: 0.4,
  slope: 0.6,
  press: {
    base: 1,
    drives: [
      {
        by: "pressure",
        how: "multiply",
        over: 20,
        curve: [
          [0, 0.05],
          [1, 1],
        ],
      },
    ],
  },
};

function GrainSection({ brush, change }: SectionProps) {
  const { grain } = brush;
  return (
    <>
      <label className="check">
        <input
          type="checkbox"
          className="form-check-input"
          checked={grain !== null}
          onChange={(event) => change({ grain: event.target.checked ? firstGrain : null })}
        />
        The paper’s grain shows
      </label>
      {grain && (
        <>
          <NumberRow
            label="Depth"
            {...percent}
            value={grain.depth}
            onChange={(depth) => change({ grain: { ...grain, depth } })}
          />
          <NumberRow
            label="Softness"
            {...percent}
            least={0.01}
            value={grain.softness}
            onChange={(softness) => change({ grain: { ...grain, softness } })}
          />
          <NumberRow
            label="Slopes catch"
            least={0}
            most={4}
            step={0.05}
            value={grain.slope}
            onChange={(slope) => change({ grain: { ...grain, slope } })}
          />
          <ParameterEditor
            label="Press on the tooth"
            {...percent}
            value={grain.press}
            onChange={(press) => change({ grain: { ...grain, press } })}
          />
        </>
      )}
    </>
  );
}

function ColourSection({ brush, change }: SectionProps) {
  const { colour } = brush;
  const set = (changes: Partial<NonNullable<Brush["colour"]>>): void => {
    if (colour) change({ colour: { ...colour, ...changes } });
  };
  return (
    <>
      <label className="check">
        <input
          type="checkbox"
          className="form-check-input"
          checked={colour !== null}
          onChange={(event) =>
            change({
              colour: event.target.checked
                ? {
                    hue: scattered(0.03, []),
                    chroma: whole,
                    value: scattered(0.08, []),
                    second: still,
                  }
                : null,
            })
          }
        />
        Marks stray from the chosen colour
      </label>
      {colour && (
        <>
          <ScatterEditor
            label="Hue"
            {...turns}
            span={0.1}
            value={colour.hue}
            onChange={(hue) => set({ hue })}
          />
          <ParameterEditor
            label="Chroma"
            {...percent}
            most={3}
            span={0.5}
            value={colour.chroma}
            onChange={(chroma) => set({ chroma })}
          />
          <ScatterEditor
            label="Value"
            {...percent}
            least={-1}
            span={0.2}
            value={colour.value}
            onChange={(value) => set({ value })}
          />
          <ParameterEditor
            label="Toward the second colour"
            {...percent}
            value={colour.second}
            onChange={(second) => set({ second })}
          />
        </>
      )}
    </>
  );
}

const firstOvertip: Overtip = {
  mode: "multiply",
  travels: false,
  tip: {
    kind: "pictures",
    pictures: [{ made: "chalk face" }],
    choice: "by chance",
    flip: { across: 0.5, along: 0.5 },
  },
  spacing: { base: 0.4, drives: [] },
  diameter: { base: 1.2, drives: [] },
  stretch: whole,
  angle: still,
  flow: { base: 0.6, drives: [] },
  scatter: { along: still, across: still },
  grain: null,
};

const modeWords: Record<Overtip["mode"], string> = {
  multiply: "Multiply: paint stays where both are",
  dodge: "Dodge: it strengthens what it covers",
  subtract: "Subtract: it takes away what it covers",
  darken: "Darken: the lesser of the two",
};

function OvertipSection({ session, brush, change }: SectionProps) {
  const { overtip } = brush;
  const set = (changes: Partial<Overtip>): void => {
    if (overtip) change({ overtip: { ...overtip, ...changes } });
  };
  return (
    <>
      <label className="check">
        <input
          type="checkbox"
          className="form-check-input"
          checked={overtip !== null}
          onChange={(event) => change({ overtip: event.target.checked ? firstOvertip : null })}
        />
        A second tip over the first
      </label>
      {overtip && (
        <>
          <label className="choice">
            How
            <select
              className="form-select form-select-sm"
              value={overtip.mode}
              onChange={(event) => set({ mode: event.target.value as Overtip["mode"] })}
            >
              {overtipModes.map((mode) => (
                <option key={mode} value={mode}>
                  {modeWords[mode]}
                </option>
              ))}
            </select>
          </label>
          <label className="check">
            <input
              type="checkbox"
              className="form-check-input"
              checked={overtip.travels}
              onChange={(event) => set({ travels: event.target.checked })}
            />
            It goes along with each mark, also where marks scatter
          </label>
          <TipSection session={session} tip={overtip.tip} onChange={(tip) => set({ tip })} />
          <ParameterEditor
            label="Overtip’s size"
            {...percent}
            most={3}
            span={1}
            value={overtip.diameter}
            onChange={(diameter) => set({ diameter })}
          />
          <ParameterEditor
            label="Overtip’s flow"
            {...percent}
            value={overtip.flow}
            onChange={(flow) => set({ flow })}
          />
          <ParameterEditor
            label="Overtip’s spacing"
            {...percent}
            least={0.01}
            most={4}
            span={1}
            value={overtip.spacing}
            onChange={(spacing) => set({ spacing })}
          />
          <ParameterEditor
            label="Overtip’s angle"
            {...turns}
            span={1}
            value={overtip.angle}
            onChange={(angle) => set({ angle })}
          />
          <ScatterEditor
            label="Overtip’s scatter across"
            {...percent}
            least={-4}
            most={4}
            span={1}
            value={overtip.scatter.across}
            onChange={(across) => set({ scatter: { ...overtip.scatter, across } })}
          />
        </>
      )}
    </>
  );
}

function EndsSection({ brush, change }: SectionProps) {
  const { taper } = brush;
  return (
    <>
      <NumberRow
        label="Swells in over"
        unit="px at size 10"
        least={0}
        most={300}
        step={1}
        value={taper.in}
        onChange={(length) => change({ taper: { ...taper, in: length } })}
      />
      <NumberRow
        label="Thins out over"
        unit="px at size 10"
        least={0}
        most={300}
        step={1}
        value={taper.out}
        onChange={(length) => change({ taper: { ...taper, out: length } })}
      />
      <label className="check">
        <input
          type="checkbox"
          className="form-check-input"
          checked={taper.narrows}
          onChange={(event) => change({ taper: { ...taper, narrows: event.target.checked } })}
        />
        The mark narrows there
      </label>
      <p className="quiet">
        With a mouse too. If the mark does not narrow, taper still drives what you let it drive.
      </p>
    </>
  );
}

function AboutSection({ brush, change }: SectionProps) {
  return (
    <>
      <label className="choice">
        Kit
        <input
          className="form-control form-control-sm"
          value={brush.kit}
          maxLength={80}
          onChange={(event) => event.target.value && change({ kit: event.target.value })}
        />
      </label>
      <label className="choice">
        Author
        <input
          className="form-control form-control-sm"
          value={brush.author}
          maxLength={80}
          placeholder="as you like to be named, or nothing"
          onChange={(event) => change({ author: event.target.value })}
        />
      </label>
      <label className="choice">
        Tags
        <input
          className="form-control form-control-sm"
          defaultValue={brush.tags.join(", ")}
          placeholder="separated by commas"
          onChange={(event) =>
            change({
              tags: event.target.value
                .split(",")
                .map((tag) => tag.trim())
                .filter(Boolean),
            })
          }
        />
      </label>
    </>
  );
}

export const sections: Record<SectionName, (props: SectionProps) => React.ReactNode> = {
  Laying: LayingSection,
  Tip: ({ session, brush, change }) => (
    <TipSection session={session} tip={brush.tip} onChange={(tip) => change({ tip })} />
  ),
  "Size and flow": SizeSection,
  "Spacing and scatter": SpacingSection,
  "Turn and stretch": TurnSection,
  Grain: GrainSection,
  Colour: ColourSection,
  Overtip: OvertipSection,
  Ends: EndsSection,
  About: AboutSection,
};
