"use client";

import { BringToFront, Copy, SendToBack, Sparkles, Trash2 } from "lucide-react";
import { useState } from "react";
import { madeSets, type Manner } from "../../../engine/strew/sets";
import { type OwnSet } from "../../../engine/strew/strew";
import { Choice } from "../../ui/Choice";
import { FloatingPanel } from "../../ui/FloatingPanel";
import { NumberField } from "../../ui/NumberField";
import { Tick } from "../../ui/Tick";
import { WideSlide } from "../../ui/WideSlide";
import { type Session } from "../session";
import { useTable } from "../table-store";
import {
  chooseAllPieces,
  duplicatePieces,
  placeBefore,
  removePieces,
  withChosen,
} from "./chosen-pieces";
import { horizonIn } from "./horizon";
import {
  addStrewnLayer,
  chooseNoPieces,
  closeStrew,
  mannerOf,
  nameOfSet,
  setDepth,
  setManner,
  type StrewAct,
  type StrewPart,
  strewnLayerNow,
  useStrew,
} from "./strew-store";

const ACTS: readonly (readonly [StrewAct, string])[] = [
  ["strew", "Strew"],
  ["thin", "Thin out"],
  ["choose", "Choose"],
];
const PARTS: readonly (readonly [StrewPart, string])[] = [
  ["places", "Places"],
  ["looks", "Looks"],
  ["depth", "Depth"],
];
const TURNS: readonly (readonly [Manner["turn"], string])[] = [
  ["any", "Any way"],
  ["along", "Along"],
  ["upright", "Upright"],
];

type SlideOf = readonly [key: keyof Manner, label: string, most: number];
const PLACES: readonly SlideOf[] = [
  ["gap", "Gap", 4],
  ["spread", "Spread", 8],
  ["sizes", "Sizes by chance", 1],
  ["press", "Size by pressure", 1],
];
const LOOKS: readonly SlideOf[] = [
  ["tint", "Toward the colours in hand", 1],
  ["strays", "Light and warmth by chance", 1],
  ["fades", "Paler by chance", 1],
  ["blurs", "Out of focus by chance", 1],
];

function Slides({ of, manner }: { of: readonly SlideOf[]; manner: Manner }) {
  return of.map(([key, label, most]) => (
    <WideSlide
      key={key}
      label={label}
      least={key === "gap" ? 0.05 : 0}
      most={most}
      value={manner[key] as number}
      set={(value) => setManner({ [key]: value })}
    />
  ));
}

/** The pictures of the set in hand: all by chance, or one of them. */
function Pictures({ count }: { count: number }) {
  const only = useStrew((state) => state.only);
  return (
    <label className="only">
      Pictures
      <select
        className="form-select form-select-sm"
        value={only ?? "all"}
        onChange={({ target }) =>
          useStrew.setState({ only: target.value === "all" ? null : Number(target.value) })
        }
      >
        <option value="all">all {count} by chance</option>
        {Array.from({ length: count }, (_, i) => (
          <option key={i} value={i}>
            only number {i + 1}
          </option>
        ))}
      </select>
    </label>
  );
}

/** Depth on or off; its horizon is the picture's, where that has one. */
function turnDepth(on: boolean): void {
  const { picture } = useTable.getState();
  const horizon = on && picture ? horizonIn(picture, picture.width) : null;
  setDepth(picture && horizon !== null ? { on, horizon: horizon / picture.height } : { on });
}

function StrewingPart({ count }: { count: number }) {
  const { part, manners, depth } = useStrew();
  const set = useTable((state) => state.strewSet);
  const height = useTable((state) => state.picture?.height ?? 1);
  const manner = mannerOf(set, manners);
  return (
    <>
      <Choice
        label="What is set"
        of={PARTS}
        value={part}
        choose={(next) => useStrew.setState({ part: next })}
      />
      {part === "places" && (
        <>
          {count > 1 && <Pictures count={count} />}
          <Slides of={PLACES} manner={manner} />
          <Choice
            label="How pieces lie"
            of={TURNS}
            value={manner.turn}
            choose={(turn) => setManner({ turn })}
          />
          {manner.turn !== "any" && (
            <WideSlide
              label="Turned by chance"
              least={0}
              most={1}
              value={manner.turns}
              set={(turns) => setManner({ turns })}
            />
          )}
          <Tick on={manner.flips} set={(flips) => setManner({ flips })}>
            Some mirrored
          </Tick>
        </>
      )}
      {part === "looks" && <Slides of={LOOKS} manner={manner} />}
      {part === "depth" && (
        <>
          <Tick on={depth.on} set={turnDepth}>
            Smaller and paler toward the horizon
          </Tick>
          {depth.on && (
            <>
              <NumberField
                className="field"
                label="Horizon"
                unit="px from the top"
                value={depth.horizon * height}
                take={(v) => setDepth({ horizon: Math.min(1.5, Math.max(-0.5, v / height)) })}
              />
              <WideSlide
                label="How much"
                least={0}
                most={1}
                value={depth.amount}
                set={(amount) => setDepth({ amount })}
              />
              <label className="colour-field">
                Colour of the air
                <input
                  type="color"
                  value={depth.air}
                  onChange={({ target }) => setDepth({ air: target.value })}
                />
              </label>
              <p className="quiet mb-0">The line over the picture can be dragged.</p>
            </>
          )}
        </>
      )}
    </>
  );
}

/** A slide for the chosen pieces: it tries while it is moved, and stays where it is let go. */
function ChosenSlide({
  session,
  label,
  of,
}: {
  session: Session;
  label: string;
  of: "opacity" | "blur";
}) {
  const looks = useStrew((state) => state.looks);
  const mean = looks.reduce((sum, look) => sum + look[of], 0) / Math.max(1, looks.length);
  const [value, setValue] = useState<number | null>(null);
  const keep = async (): Promise<void> => {
    if (value === null) return;
    await withChosen(session, (chosen) => ({ do: "strew.set", ...chosen, [of]: value }));
    setValue(null);
  };
  return (
    <div onPointerUp={() => void keep()} onKeyUp={() => void keep()}>
      <WideSlide label={label} least={0} most={1} value={value ?? mean} set={setValue} />
    </div>
  );
}

function ChoosingPart({ session }: { session: Session }) {
  const chosen = useStrew((state) => state.chosen);
  const none = chosen.length === 0;
  const icons = [
    {
      name: "Bring before the others",
      icon: <BringToFront size={16} />,
      act: () => withChosen(session, (them) => ({ do: "strew.order", ...them, to: "front" })),
    },
    {
      name: "Send behind the others",
      icon: <SendToBack size={16} />,
      act: () => withChosen(session, (them) => ({ do: "strew.order", ...them, to: "back" })),
    },
    { name: "Duplicate", icon: <Copy size={16} />, act: () => duplicatePieces(session) },
    {
      name: "Thin out by half",
      icon: <Sparkles size={16} />,
      act: () =>
        withChosen(session, (them) => ({
          do: "strew.thin",
          ...them,
          keep: 0.5,
          seed: Math.floor(Math.random() * 0xffffffff),
        })),
    },
    { name: "Remove", icon: <Trash2 size={16} />, act: () => removePieces(session) },
  ];
  return (
    <>
      <p className="quiet mb-0" role="status">
        {none
          ? "Nothing is chosen: tap a piece, or draw a loop around some."
          : chosen.length === 1
            ? "One piece is chosen."
            : `${chosen.length} pieces are chosen.`}
      </p>
      <div className="acts">
        <button type="button" className="btn btn-sm" onClick={() => void chooseAllPieces(session)}>
          All
        </button>
        <button type="button" className="btn btn-sm" disabled={none} onClick={chooseNoPieces}>
          None
        </button>
      </div>
      <div className="acts">
        {icons.map(({ name, icon, act }) => (
          <button
            key={name}
            type="button"
            className="icon-button"
            aria-label={name}
            title={name}
            disabled={none}
            onClick={() => void act()}
          >
            {icon}
          </button>
        ))}
      </div>
      {!none && (
        <>
          <ChosenSlide session={session} label="Opacity" of="opacity" />
          <ChosenSlide session={session} label="Out of focus" of="blur" />
          <div className="acts">
            <button
              type="button"
              className="btn btn-sm"
              onClick={() => {
                const { colour } = useTable.getState();
                useTable.getState().useColour();
                void withChosen(session, (them) => ({
                  do: "strew.set",
                  ...them,
                  tint: [colour, 1],
                }));
              }}
            >
              In the colour in hand
            </button>
            <button
              type="button"
              className="btn btn-sm"
              onClick={() =>
                void withChosen(session, (them) => ({
                  do: "strew.set",
                  ...them,
                  tint: ["#ffffff", 0],
                }))
              }
            >
              In their own
            </button>
          </div>
        </>
      )}
    </>
  );
}

const countOf = (set: number, own: readonly OwnSet[] | undefined): number =>
  madeSets[set]?.pictures ?? own?.find(({ number }) => number === set)?.pictures.length ?? 1;

/** Strewing: how a set is strewn, and what becomes of the pieces that lie there. */
export function StrewPanel({ session }: { session: Session }) {
  const { act, chosen } = useStrew();
  const tool = useTable((state) => state.tool);
  const set = useTable((state) => state.strewSet);
  const picture = useTable((state) => state.picture);
  const own = useTable((state) => state.picture?.strewn);
  useTable((state) => state.selected[0]);
  if (tool !== "strew" || !picture) return null;
  const layer = strewnLayerNow();
  return (
    <FloatingPanel
      title={`Strew: ${nameOfSet(set).toLowerCase()}`}
      className="adjust-panel sheet-panel strew-panel"
    >
      <Choice
        label="What the hand does"
        of={ACTS}
        value={act}
        choose={(next) => useStrew.setState({ act: next })}
      />
      {!layer && (
        <p className="mb-0">
          Pieces lie on a layer of their own.{" "}
          <button
            type="button"
            className="btn btn-sm quiet-button"
            onClick={() => void addStrewnLayer(session)}
          >
            New layer to strew on
          </button>
        </p>
      )}
      {layer && act === "strew" && <StrewingPart count={countOf(set, own)} />}
      {layer && act === "thin" && (
        <p className="quiet mb-0">
          Draw over pieces: they go. At half strength every second one stays. The pen’s other end
          does the same while you strew.
        </p>
      )}
      {layer && act === "choose" && <ChoosingPart session={session} />}
      <footer>
        <button type="button" className="btn" onClick={closeStrew}>
          Back to painting
        </button>
        {layer && (
          <button
            type="button"
            className="btn"
            title="From then on they are paint, and no more pieces"
            onClick={() =>
              void (act === "choose" && chosen.length > 0
                ? placeBefore(session)
                : session.apply({ do: "strew.place", layer: layer.id }))
            }
          >
            {act === "choose" && chosen.length > 0 ? "Place, chosen on top" : "Place as paint"}
          </button>
        )}
      </footer>
    </FloatingPanel>
  );
}
