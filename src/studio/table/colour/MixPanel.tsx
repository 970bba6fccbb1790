"use client";

import { useEffect, useState } from "react";
import { stringOf } from "../../../engine/pigment/pigment";
import { type Recipe, recipeFor } from "../../../engine/pigment/recipe";
import { tubesOf } from "../../../engine/pigment/tubes";
import { useParts, useTable } from "../table-store";

/** Mixtures that a string shows, both ends among them. */
const COUNT = 9;
const WHITE = "#ffffff";
const BLACK = "#0d0d0f";

/** How long a colour must stay before its recipe is looked for, ms. */
const RESTS = 150;
/** Up to these distances in OKLab a mixture is called one colour with what was asked, or near it. */
const SAME = 0.012;
const NEAR = 0.035;

const nearness = (off: number): string =>
  off < SAME ? "the same" : off < NEAR ? "near" : "as near as paint comes";

/** The nearest mixture from the tubes to the colour in hand. */
function FromTubes({ colour, take }: { colour: string; take: (hex: string) => void }) {
  const [found, setFound] = useState<{ of: string; recipe: Recipe } | null>(null);
  const names = useTable(({ picture }) => picture?.tubes ?? null);
  useEffect(() => {
    const find = (): void => setFound({ of: colour, recipe: recipeFor(colour, tubesOf(names)) });
    const waiting = setTimeout(find, RESTS);
    return () => clearTimeout(waiting);
  }, [colour, names]);
  if (!found) return null;
  const { parts, colour: mixture, off } = found.recipe;
  return (
    <div
      className="from-tubes"
      role="group"
      aria-label="From tubes"
      aria-busy={found.of !== colour}
    >
      <button
        type="button"
        style={{ background: mixture }}
        aria-label={`Mixture from tubes ${mixture}`}
        title={mixture}
        onClick={() => take(mixture)}
      />
      <ul>
        {parts.map(({ tube, parts: count }) => (
          <li key={tube.name}>
            <span className="dot" style={{ background: tube.colour }} />
            {parts.length > 1 && `${count} `}
            {tube.name}
          </li>
        ))}
      </ul>
      <span className="quiet">{nearness(off)}</span>
    </div>
  );
}

/** The colour in hand stirred, as paint, with the second one, with white and with black. */
export function MixPanel() {
  const { colour, second, chooseColour } = useParts("colour", "second", "chooseColour");
  // A mixture that is taken becomes the first colour: what it was mixed from is held meanwhile.
  const [base, setBase] = useState<{ of: string; taken: string } | null>(null);
  const from = base && base.taken === colour ? base.of : colour;
  const take = (hex: string): void => {
    setBase({ of: from, taken: hex });
    chooseColour(hex);
  };
  const strings = [
    { name: "second", into: second },
    { name: "white", into: WHITE },
    { name: "black", into: BLACK },
  ];
  return (
    <div className="mixtures">
      {strings.map(({ name, into }) => (
        <div key={name} className="row-of" role="group" aria-label={`Mixed with ${name}`}>
          <span className="quiet">+ {name}</span>
          <div className="string">
            {stringOf(from, into, COUNT).map((hex, i) => (
              <button
                key={i}
                type="button"
                style={{ background: hex }}
                aria-label={`Mixture ${i + 1} of ${COUNT} with ${name}, ${hex}`}
                title={hex}
                onClick={() => take(hex)}
              />
            ))}
          </div>
        </div>
      ))}
      <FromTubes colour={colour} take={take} />
    </div>
  );
}
