"use client";

import { drivenNames, type DrivenName } from "../../engine/dry/material";
import { graphite } from "../../engine/dry/materials";
import { hog } from "../../engine/media/oils";
import { sable } from "../../engine/media/waters";
import { type Laying, layingSchema } from "../../engine/stroke/laying/laying";
import { type Brush } from "../../engine/stroke/brush";
import { NumberRow, ParameterEditor } from "./ParameterEditor";
import { type SectionProps } from "./section-props";

type Kind = Laying["kind"];

const kinds: Record<Kind, { name: string; about: string; first: Laying }> = {
  marks: {
    name: "Train of marks",
    about: "The tip set down again and again along the path.",
    first: { kind: "marks", every: null },
  },
  line: {
    name: "Clean line",
    about: "One shape with a clean edge. Tip and spacing do not count.",
    first: { kind: "line" },
  },
  contact: {
    name: "Dry tip",
    about:
      "Rubbed over the paper’s tooth: graphite, charcoal, chalk, pastel, wax. Size, stretch and angle shape the tip; flow is what of the pen’s pressure comes down.",
    first: layingSchema.parse(graphite(0.68)),
  },
  bristles: {
    name: "Bristles",
    about:
      "A tuft swept through wet paint that stands up. Each bristle lays what it holds, takes up what lies there and ploughs some aside, until it has run dry. Size is the tuft’s width, strength its load; the other sections count on masks alone.",
    first: hog,
  },
  knife: {
    name: "Knife",
    about:
      "Its edge lies across the travel: it spreads what it carries, levels what stands higher and marbles what it meets. Size is the length of the edge, strength its load; the other sections count on masks alone.",
    first: { kind: "knife", marbles: 0.6, run: 6, leaves: 1 },
  },
  wash: {
    name: "Water",
    about:
      "Water with paint in it, that spreads, settles and dries after the stroke. Size is the tip’s width, strength how strong its paint is; the other sections count on masks alone.",
    first: sable,
  },
  spray: {
    name: "Spray",
    about: "A cloud of specks around the path; each speck is the tip, made small.",
    first: {
      kind: "spray",
      specks: 12,
      spread: 1,
      speck: 0.05,
      uneven: 0.5,
      cloud: "middle",
      every: null,
    },
  },
  hairs: {
    name: "Tufts of hair",
    about: "Hairs from roots under the tip. In Blend they carry the colour of their roots.",
    first: {
      kind: "hairs",
      hairs: 12,
      spread: 1,
      length: 1,
      width: 0.05,
      lean: "tilt",
      fan: 0.06,
      curl: 0.04,
      wave: 0,
      waves: 0,
      clump: 0.2,
    },
  },
  strands: {
    name: "Strands",
    about: "Hairs that run along with the stroke and open with speed.",
    first: {
      kind: "strands",
      strands: 24,
      width: 0.06,
      opens: 0.5,
      wave: 0,
      waves: 0,
      clump: 0.2,
      breaks: 0.1,
    },
  },
  weave: {
    name: "Weave",
    about: "A line that ties itself to marks nearby with fine threads.",
    first: { kind: "weave", reach: 26, threads: 3, thread: 0.34, faint: 0.26, dry: null },
  },
  ribbon: {
    name: "Stretched tip",
    about: "One picture, drawn out over the whole stroke.",
    first: { kind: "ribbon", from: "root" },
  },
};

type Numbers = [key: string, label: string, least: number, most: number, step: number][];

const numbers: Record<Kind, Numbers> = {
  marks: [],
  line: [],
  ribbon: [],
  contact: [
    ["gives", "Gives", 0.02, 4, 0.01],
    ["press", "Pressing adds", 0, 2, 0.01],
    ["foot", "Touches from height", 0, 0.8, 0.01],
    ["soft", "Softness of the touch", 0.02, 0.5, 0.01],
    ["steep", "Favours peaks", 0.5, 1.6, 0.01],
    ["valley", "Reaches valleys", 0, 1, 0.01],
    ["dust", "Dust", 0, 0.6, 0.01],
    ["most", "Most that holds", 0.1, 1.9, 0.01],
    ["covers", "Covers", 0.2, 6, 0.05],
    ["grit", "Unevenness of particles", 0, 0.2, 0.001],
    ["tooth", "Follows the tooth", 0, 1.5, 0.01],
    ["fineTooth", "Follows fine tooth", 0, 1.5, 0.01],
    ["catches", "Catches on slopes", 0, 2, 0.05],
    ["sheds", "Sheds dust", 0, 1, 0.01],
    ["skips", "Skips behind heights", 0, 2, 0.05],
    ["face", "Unevenness of the face", 0, 1, 0.01],
    ["streakWidth", "Width of streaks, px", 0.5, 20, 0.1],
    ["streakLength", "Length of streaks, px", 4, 400, 2],
    ["fills", "Fills the tooth", 0, 1, 0.01],
    ["loose", "Lies loose", 0, 1, 0.01],
    ["wax", "Wax", 0, 1, 0.01],
    ["clear", "Lets show through", 0, 1, 0.01],
    ["relief", "Light on ridges", 0, 1, 0.01],
    ["crumbs", "Crumbs", 0, 1, 0.01],
    ["chatter", "Sticks and slips", 0, 1, 0.01],
    ["shine", "Shine where pressed", 0, 0.3, 0.01],
    ["flat", "Worn flat", 0, 1, 0.01],
    ["wears", "Wears as it draws", 0, 1, 0.01],
    ["shoulder", "Paler shoulder when lying", 0, 1, 0.01],
    ["leans", "Lies off the pen", 0, 1, 0.01],
    ["drags", "Drags wax along", 0, 1, 0.01],
    ["rubs", "Rubs, in Blend", 0, 3, 0.05],
    ["melts", "Moves wax, in Blend", 0, 1, 0.01],
    ["pulls", "Pulls off, in Lift", 0, 12, 0.1],
  ],
  bristles: [
    ["depth", "Depth to width", 0.06, 1, 0.01],
    ["cover", "How close they stand", 1, 1.8, 0.01],
    ["soft", "Softness", 0, 1, 0.01],
    ["stiff", "Scratches when pressed", 0, 1, 0.01],
    ["splay", "Parts when pressed", 0, 0.6, 0.01],
    ["trails", "Trails behind", 0, 4, 0.05],
    ["gives", "Lays", 0.05, 0.5, 0.01],
    ["takes", "Takes up", 0.05, 0.6, 0.01],
    ["ploughs", "Ploughs aside", 0, 2.5, 0.05],
    ["film", "Paint on the tip, px", 0.4, 4, 0.05],
    ["run", "Load lasts, widths", 2, 120, 0.5],
    ["hair", "Unevenness of hairs", 0, 0.9, 0.01],
    ["ridge", "Lanes and ridges", 0, 1, 0.01],
    ["thick", "Takes less from, px", 0.5, 6, 0.1],
  ],
  knife: [
    ["marbles", "Marbles", 0, 1, 0.01],
    ["run", "Load lasts, widths", 1, 20, 0.5],
    ["leaves", "Leaves, thick", 0.2, 3, 0.05],
  ],
  wash: [
    ["depth", "Depth to width", 0.02, 1, 0.01],
    ["soft", "Softness of its edge", 0, 1, 0.01],
    ["narrows", "Narrows at a light touch", 0, 1, 0.01],
    ["water", "Water, films", 0, 4, 0.05],
    ["load", "Paint", 0, 4, 0.05],
    ["run", "Load lasts, widths", 1, 200, 1],
    ["tooth", "Meets the tooth, drily", 0, 2, 0.05],
  ],
  spray: [
    ["specks", "Specks", 1, 64, 1],
    ["spread", "Spread", 0, 4, 0.05],
    ["speck", "Size of a speck", 0.002, 1, 0.002],
    ["uneven", "Unevenness", 0, 1, 0.01],
  ],
  hairs: [
    ["hairs", "Hairs", 1, 48, 1],
    ["spread", "Spread of roots", 0, 4, 0.05],
    ["length", "Length", 0.1, 8, 0.05],
    ["width", "Width", 0.002, 0.5, 0.002],
    ["fan", "Fan", 0, 0.5, 0.005],
    ["curl", "Curl", -2, 2, 0.01],
    ["wave", "Wave", 0, 1, 0.01],
    ["waves", "Waves", 0, 12, 0.1],
    ["clump", "Locks", 0, 1, 0.01],
  ],
  strands: [
    ["strands", "Strands", 1, 96, 1],
    ["width", "Width", 0.002, 0.5, 0.002],
    ["opens", "Opening with speed", 0, 4, 0.05],
    ["wave", "Wave", 0, 1, 0.01],
    ["waves", "Waves", 0, 40, 0.1],
    ["clump", "Locks", 0, 1, 0.01],
    ["breaks", "Breaks", 0, 1, 0.01],
  ],
  weave: [
    ["reach", "Reach", 1, 200, 1],
    ["threads", "Threads", 0, 12, 1],
    ["thread", "Width of a thread", 0.02, 1, 0.01],
    ["faint", "Flow of a thread", 0, 1, 0.01],
  ],
};

const choices: Partial<Record<Kind, { key: string; label: string; values: [string, string][] }>> = {
  spray: {
    key: "cloud",
    label: "Cloud",
    values: [
      ["middle", "gathers in the middle"],
      ["even", "even"],
    ],
  },
  contact: {
    key: "particle",
    label: "Particles",
    values: [
      ["fine", "fine"],
      ["medium", "medium"],
      ["coarse", "coarse"],
    ],
  },
  bristles: {
    key: "outline",
    label: "Cut of the tuft",
    values: [
      ["round", "round"],
      ["square", "square"],
    ],
  },
  hairs: {
    key: "lean",
    label: "They lie",
    values: [
      ["tilt", "as the pen leans"],
      ["stroke", "along the stroke"],
      ["outward", "outward"],
    ],
  },
  ribbon: {
    key: "from",
    label: "The picture's left end lies",
    values: [
      ["root", "where the stroke begins"],
      ["end", "where it ends"],
    ],
  },
};

/** Whether a number of a dry tip may change along the stroke. */
const isDriven = (key: string): key is DrivenName => drivenNames.some((name) => name === key);

/** Some ms between marks, for brushes that pour. */
const A_POUR = 10;

/** How marks follow the hand. */
export function LayingSection({ brush, change }: SectionProps) {
  const { laying } = brush;
  const set = (key: string, value: unknown): void =>
    change({ laying: { ...laying, [key]: value } as Brush["laying"] });
  const choice = choices[laying.kind];
  const pours = laying.kind === "marks" || laying.kind === "spray";
  return (
    <>
      <div className="kinds" role="radiogroup" aria-label="Laying">
        {(Object.keys(kinds) as Kind[]).map((kind) => (
          <button
            key={kind}
            type="button"
            role="radio"
            aria-checked={kind === laying.kind}
            onClick={() => kind !== laying.kind && change({ laying: kinds[kind].first })}
          >
            {kinds[kind].name}
          </button>
        ))}
      </div>
      <p className="quiet">{kinds[laying.kind].about}</p>
      {choice && (
        <label className="choice">
          {choice.label}
          <select
            className="form-select form-select-sm"
            value={String(laying[choice.key as keyof Laying])}
            onChange={(event) => set(choice.key, event.target.value)}
          >
            {choice.values.map(([value, name]) => (
              <option key={value} value={value}>
                {name}
              </option>
            ))}
          </select>
        </label>
      )}
      {(laying.kind === "bristles" || laying.kind === "wash") && (
        <label className="check">
          <input
            type="checkbox"
            className="form-check-input"
            checked={laying.turns}
            onChange={(event) => set("turns", event.target.checked)}
          />
          Turns with the stroke: its width stays across the travel
        </label>
      )}
      {laying.kind === "bristles" && (
        <label className="check">
          <input
            type="checkbox"
            className="form-check-input"
            checked={laying.dries}
            onChange={(event) => set("dries", event.target.checked)}
          />
          Dry as soon as the stroke ends
        </label>
      )}
      {laying.kind === "contact" && (
        <>
          <h3>Along the stroke</h3>
          {numbers.contact.map(
            ([key, label, least, most, step]) =>
              isDriven(key) && (
                <ParameterEditor
                  key={key}
                  {...{ label, least, most, step }}
                  value={laying[key]}
                  onChange={(value) => set(key, value)}
                />
              ),
          )}
          <h3>As the paper answers, for the whole stroke</h3>
        </>
      )}
      {numbers[laying.kind].map(
        ([key, label, least, most, step]) =>
          !(laying.kind === "contact" && isDriven(key)) && (
            <NumberRow
              key={key}
              {...{ label, least, most, step }}
              value={Number(laying[key as keyof Laying] ?? 0)}
              onChange={(value) => set(key, step === 1 ? Math.round(value) : value)}
            />
          ),
      )}
      {pours && (
        <label className="check">
          <input
            type="checkbox"
            className="form-check-input"
            checked={laying.every !== null}
            onChange={(event) => set("every", event.target.checked ? A_POUR : null)}
          />
          Pours: marks by time, also while the hand rests
        </label>
      )}
      {pours && laying.every !== null && (
        <NumberRow
          label="Every"
          unit="ms"
          least={2}
          most={200}
          step={1}
          value={laying.every}
          onChange={(value) => set("every", value)}
        />
      )}
    </>
  );
}
