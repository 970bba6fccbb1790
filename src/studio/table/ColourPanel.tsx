"use client";

import { FarView } from "./FarView";
import { type Session } from "./session";
import { ArrowLeftRight, Palette } from "lucide-react";
import { type CSSProperties, useState } from "react";
import {
  greatestChroma,
  hexFromText,
  hexToOklch,
  hexToRgb,
  hslToRgb,
  isWarm,
  oklchToHex,
  rgbToHex,
  rgbToHsl,
} from "../../engine/colour/oklch";
import { swapColours } from "./actions";
import { HarmonyPanel } from "./colour/HarmonyPanel";
import { MixPanel } from "./colour/MixPanel";
import { TubesPanel } from "./colour/TubesPanel";
import { WellsPanel } from "./colour/WellsPanel";
import { Leaf } from "./Leaf";
import { useParts, useTable } from "./table-store";

const STEPS = 11;

/** Eleven values from black to white of the colour's own hue. */
function Ladder() {
  const colour = useTable((state) => state.colour);
  const chooseColour = useTable((state) => state.chooseColour);
  const { l, c, h } = hexToOklch(colour);
  const nearest = Math.round(l * (STEPS - 1));
  return (
    <div className="ladder" role="group" aria-label="Value ladder">
      {Array.from({ length: STEPS }, (_, i) => {
        const value = i / (STEPS - 1);
        const hex = oklchToHex({ l: value, c: Math.min(c, greatestChroma(value, h)), h });
        return (
          <button
            key={i}
            type="button"
            style={{ background: hex }}
            aria-label={`Value ${i * 10}`}
            aria-pressed={i === nearest}
            onClick={() => chooseColour(hex, true)}
          />
        );
      })}
    </div>
  );
}

function HueStrip() {
  const hue = useTable((state) => state.hue);
  const colour = useTable((state) => state.colour);
  const set = useTable((state) => state.set);
  const turn = (next: number): void => {
    const { l, c, h } = hexToOklch(colour);
    // The colour turns with its page.
    const own = c < 0.004 ? next : (h + next - hue + 720) % 360;
    set({ hue: next, colour: oklchToHex({ l, c: Math.min(c, greatestChroma(l, own)), h: own }) });
  };
  return (
    <div className="hue-strip">
      <input
        type="range"
        className="swell even"
        min={0}
        max={360}
        step={1}
        value={Math.round(hue)}
        aria-label="Hue"
        aria-valuetext={`${Math.round(hue)}°, ${isWarm(hue) ? "warm" : "cool"}`}
        onChange={(event) => turn(Number(event.target.value))}
      />
      <div className="ends" aria-hidden="true">
        <span>warm</span>
        <span>cool</span>
        <span>warm</span>
      </div>
    </div>
  );
}

function HexField() {
  const colour = useTable((state) => state.colour);
  const chooseColour = useTable((state) => state.chooseColour);
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && hexFromText(typed) === null;
  return (
    <input
      aria-label="Colour as hex"
      aria-invalid={isWrong}
      spellCheck={false}
      value={typed ?? colour}
      onChange={(event) => {
        setTyped(event.target.value);
        const hex = hexFromText(event.target.value);
        if (hex) chooseColour(hex);
      }}
      onFocus={(event) => event.target.select()}
      onBlur={() => setTyped(null)}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
      }}
    />
  );
}

type Channel = {
  label: string;
  value: number;
  most: number;
  step: number;
  shown: string;
  hexAt: (value: number) => string;
};

function oklchChannels(colour: string): Channel[] {
  const { l, c, h } = hexToOklch(colour);
  const made = (next: { l?: number; c?: number; h?: number }): string => {
    const wanted = { l, c, h, ...next };
    return oklchToHex({ ...wanted, c: Math.min(wanted.c, greatestChroma(wanted.l, wanted.h)) });
  };
  return [
    {
      label: "Value",
      value: l,
      most: 1,
      step: 0.005,
      shown: String(Math.round(l * 100)),
      hexAt: (v) => made({ l: v }),
    },
    {
      label: "Chroma",
      value: c,
      most: 0.33,
      step: 0.002,
      shown: String(Math.round(c * 1000)),
      hexAt: (v) => made({ c: v }),
    },
    {
      label: "Hue",
      value: h,
      most: 360,
      step: 1,
      shown: `${Math.round(h)}°`,
      hexAt: (v) => made({ h: v }),
    },
  ];
}

function hslChannels(colour: string): Channel[] {
  const hsl = rgbToHsl(hexToRgb(colour));
  const { h, s, l } = hsl;
  return [
    {
      label: "Hue",
      value: h,
      most: 360,
      step: 1,
      shown: `${Math.round(h)}°`,
      hexAt: (v) => rgbToHex(hslToRgb({ ...hsl, h: v })),
    },
    {
      label: "Saturation",
      value: s,
      most: 100,
      step: 1,
      shown: String(Math.round(s)),
      hexAt: (v) => rgbToHex(hslToRgb({ ...hsl, s: v })),
    },
    {
      label: "Lightness",
      value: l,
      most: 100,
      step: 1,
      shown: String(Math.round(l)),
      hexAt: (v) => rgbToHex(hslToRgb({ ...hsl, l: v })),
    },
  ];
}

function Sliders() {
  const colour = useTable((state) => state.colour);
  const chooseColour = useTable((state) => state.chooseColour);
  const [kind, setKind] = useState<"OKLCH" | "HSL">("OKLCH");
  const channels = kind === "OKLCH" ? oklchChannels(colour) : hslChannels(colour);
  return (
    <div className="sliders">
      <div className="kinds" role="tablist" aria-label="Sliders">
        {(["OKLCH", "HSL"] as const).map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={name === kind}
            onClick={() => setKind(name)}
          >
            {name}
          </button>
        ))}
      </div>
      {channels.map(({ label, value, most, step, shown, hexAt }) => {
        const stops = Array.from({ length: 9 }, (_, i) => hexAt((most * i) / 8)).join(", ");
        return (
          <label key={label}>
            {label}
            <input
              type="range"
              className="swell even"
              style={{ "--track": `linear-gradient(90deg, ${stops})` } as CSSProperties}
              min={0}
              max={most}
              step={step}
              value={value}
              onChange={(event) => chooseColour(hexAt(Number(event.target.value)), label !== "Hue")}
            />
            <output>{shown}</output>
          </label>
        );
      })}
    </div>
  );
}

const colourTabs = ["Recent", "Harmony", "Mix", "Wells", "Tubes"] as const;

function RecentColours() {
  const recent = useTable((state) => state.recent);
  const chooseColour = useTable((state) => state.chooseColour);
  return (
    <>
      {recent.length === 0 ? (
        <span className="quiet">Colours you use appear here.</span>
      ) : (
        <div className="recent" role="group" aria-label="Recent colours">
          {recent.map((hex) => (
            <button
              key={hex}
              type="button"
              style={{ background: hex }}
              aria-label={`Colour ${hex}`}
              onClick={() => chooseColour(hex)}
            />
          ))}
        </div>
      )}
    </>
  );
}

export function ColourPanel({ session }: { session: Session }) {
  const [tab, setTab] = useState<(typeof colourTabs)[number]>("Recent");
  const { colour, second, slabShown, set } = useParts("colour", "second", "slabShown", "set");
  return (
    <section className="colour-panel" aria-label="Colour">
      <div className="head">
        <h2>Colour</h2>
        <HexField />
      </div>
      <Leaf />
      <HueStrip />
      <Ladder />
      <div className="two-colours">
        <div
          className="pair"
          role="img"
          aria-label={`First colour ${colour}, second colour ${second}`}
        >
          <span className="first" style={{ background: colour }} />
          <span className="second" style={{ background: second }} />
        </div>
        <button
          type="button"
          className="icon-button"
          aria-label="Swap colours"
          aria-keyshortcuts="X"
          onClick={swapColours}
        >
          <ArrowLeftRight size={17} />
        </button>
        <button
          type="button"
          className="btn btn-sm slab-toggle"
          aria-pressed={slabShown}
          title="A surface to mix paint on, kept with the picture"
          onClick={() => set({ slabShown: !slabShown })}
        >
          <Palette size={15} aria-hidden="true" />
          Slab
        </button>
      </div>
      <Sliders />
      <div className="colour-tabs" role="tablist" aria-label="Colours at hand">
        {colourTabs.map((name) => (
          <button
            key={name}
            type="button"
            role="tab"
            aria-selected={name === tab}
            onClick={() => setTab(name)}
          >
            {name}
          </button>
        ))}
      </div>
      {tab === "Tubes" && <TubesPanel session={session} />}
      {tab === "Wells" && <WellsPanel session={session} />}
      {tab === "Harmony" && <HarmonyPanel />}
      {tab === "Mix" && <MixPanel />}
      {tab === "Recent" && <RecentColours />}
      <FarView session={session} />
    </section>
  );
}
