"use client";

import { Check } from "lucide-react";
import { useState } from "react";
import { hexToOklch } from "../../../engine/colour/oklch";
import { type Tube, tubes, tubeSets, tubesOf } from "../../../engine/pigment/tubes";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useParts, useTable } from "../table-store";

/** Below and above these a property is spoken of. */
const LITTLE = 0.25;
const MUCH = 0.6;

/** What a painter wants to know of a tube, in words. */
function inWords({ strength, body, granulates, stains, warmth }: Tube): string {
  const said = [
    body > MUCH ? "opaque" : body < LITTLE ? "glassy" : "half opaque",
    strength > 1.4 ? "tints strongly" : strength < 0.65 ? "tints weakly" : "",
    granulates > MUCH ? "granulates" : "",
    stains > MUCH ? "stains" : stains < LITTLE ? "lifts well" : "",
    warmth > 0.3 ? "warm" : warmth < -0.3 ? "cool" : "neither warm nor cool",
  ];
  return said.filter((word) => word !== "").join(" · ");
}

/** One tube: press to take its paint. */
function Swatch({ tube, isAtHand, isTold }: { tube: Tube; isAtHand: boolean; isTold: boolean }) {
  const chooseColour = useTable((state) => state.chooseColour);
  const light = hexToOklch(tube.colour).l > 0.6;
  return (
    <button
      type="button"
      className={isAtHand ? undefined : "away"}
      style={{ background: tube.colour, color: light ? "#111" : "#fff" }}
      aria-label={tube.name}
      aria-pressed={isTold}
      title={`${tube.name}: ${inWords(tube)}`}
      onClick={() => chooseColour(tube.colour)}
    >
      {isAtHand && <Check size={12} aria-hidden="true" />}
    </button>
  );
}

/** The paint box: all tubes, what each is like, and which are at hand in this picture. */
export function TubesPanel({ session }: { session: Session }) {
  const { picture, colour } = useParts("picture", "colour");
  const [last, setLast] = useState<string | null>(null);
  const names = picture?.tubes ?? null;
  const atHand = new Set(tubesOf(names).map(({ name }) => name));
  const told = tubes.find((tube) => tube.colour === colour) ?? null;
  const lay = (next: readonly string[] | null): void =>
    void session.apply({ do: "tubes.set", tubes: next && [...next] });
  const toggle = (name: string, on: boolean): void => {
    const next = tubes
      .map((tube) => tube.name)
      .filter((other) => (other === name ? on : atHand.has(other)));
    lay(next.length === tubes.length ? null : next);
  };
  return (
    <div className="tubes">
      <div className="swatches" role="group" aria-label="Tubes">
        {tubes.map((tube) => (
          <Swatch
            key={tube.name}
            tube={tube}
            isAtHand={names !== null && atHand.has(tube.name)}
            isTold={tube === told}
          />
        ))}
      </div>
      {told ? (
        <div className="told">
          <strong>{told.name}</strong>
          <span className="quiet">{inWords(told)}</span>
          <Tick
            on={atHand.has(told.name)}
            set={(on) => toggle(told.name, on)}
            title="Recipes and the slab are laid out from the tubes at hand"
          >
            At hand
          </Tick>
        </div>
      ) : (
        <p className="quiet">
          {names ? `${atHand.size} of ${tubes.length} at hand.` : "All are at hand."} Press a tube
          to take its paint.
        </p>
      )}
      <div className="line">
        <select
          className="form-select form-select-sm"
          aria-label="Set of tubes"
          value={last ?? ""}
          onChange={(event) => {
            const set = event.target.value;
            setLast(set);
            lay(tubeSets[set] ?? null);
          }}
        >
          <option value="" disabled>
            Lay out a set…
          </option>
          {Object.keys(tubeSets).map((set) => (
            <option key={set}>{set}</option>
          ))}
          <option>Whole box</option>
        </select>
        <button
          type="button"
          className="btn btn-sm"
          disabled={names === null}
          title={
            names === null
              ? "Choose which tubes are at hand first"
              : "Squeeze each tube at hand out along the slab’s rim"
          }
          onClick={() => void session.squeezeTubes()}
        >
          Squeeze out
        </button>
      </div>
    </div>
  );
}
