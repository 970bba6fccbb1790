"use client";

import { Dropdown } from "react-bootstrap";
import { likenesses } from "../../../engine/lines/find";
import { Choice } from "../../ui/Choice";
import { Slide } from "../../ui/Slide";
import { Tick } from "../../ui/Tick";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { chosenActions, chooseAll, chooseLike, setChosen } from "./chosen";
import { correcting, type Correcting, useLines } from "./lines-store";

const hints: Record<Correcting, string> = {
  choose:
    "Tap a line or draw a loop around some; Shift adds. Drag a chosen line to move all that are chosen",
  pull: "Take hold of a line and pull it",
  weight: "Stroke over lines to make them heavier or lighter",
  redraw: "Draw over a line: begin on it and end on it. Beyond its end it grows",
  smooth: "Touch the lines that are to be smooth",
  cut: "Tap what sticks out beyond a crossing",
  erase: "Rub over lines",
  join: "Drag from the end of one line to the end of another",
  repeat: "Drag the way that copies of the chosen lines are to go",
  speed: "Speed lines: drag the way that they are to go",
  focus: "Focus lines: press where they are to point, drag to the rim of what stays clear",
};

const acts = (Object.keys(correcting) as Correcting[]).map(
  (act) => [act, correcting[act], hints[act]] as const,
);

/** How far from the hand lines are reached. */
function RadiusSlide() {
  const { radius, set } = useLines();
  return (
    <Slide
      label="Radius"
      value={radius}
      least={6}
      most={160}
      set={(next) => set({ radius: next })}
    />
  );
}

/** Speed and focus lines: how they lie, also of those that were laid last. */
function RayOptions({ act }: { act: "speed" | "focus" }) {
  const { rays, set } = useLines();
  const change = (changes: Partial<typeof rays>): void => set({ rays: { ...rays, ...changes } });
  return (
    <>
      <Slide
        label="Apart"
        value={rays.gap}
        least={3}
        most={100}
        shown={`${(rays.gap / 10).toFixed(1)} mm`}
        set={(gap) => change({ gap })}
      />
      {act === "speed" ? (
        <Slide
          label="Across"
          value={rays.across}
          least={2}
          most={300}
          shown={`${rays.across} mm`}
          set={(across) => change({ across })}
        />
      ) : (
        <Slide
          label="Height"
          value={rays.height}
          least={20}
          most={200}
          shown={`${rays.height} %`}
          set={(height) => change({ height })}
        />
      )}
      <span className="quiet">Chance in</span>
      <Slide label="Widths" value={rays.widths} most={100} set={(widths) => change({ widths })} />
      <Slide
        label="Lengths"
        value={rays.lengths}
        most={100}
        set={(lengths) => change({ lengths })}
      />
      <Slide label="Gaps" value={rays.gaps} most={100} set={(gaps) => change({ gaps })} />
      {act === "speed" && (
        <Tick
          on={rays.pointed === "both"}
          set={(both) => change({ pointed: both ? "both" : "end" })}
          title="Drawn out at both ends; otherwise they begin blunt"
        >
          Both ends drawn out
        </Tick>
      )}
    </>
  );
}

/** What the act in hand can be set to. */
function ActOptions() {
  const state = useLines();
  const { act, set } = state;
  switch (act) {
    case "pull":
      return (
        <>
          <Slide
            label="Reach"
            value={state.reach}
            least={20}
            most={400}
            set={(reach) => set({ reach })}
          />
          <Tick
            on={state.endsHeld}
            set={(endsHeld) => set({ endsHeld })}
            title="The line's ends stay where they are"
          >
            Ends held
          </Tick>
        </>
      );
    case "weight":
      return (
        <>
          <Choice
            label="What becomes of the width"
            of={[
              ["thicken", "Thicken"],
              ["thin", "Thin"],
              ["even", "Even out"],
            ]}
            value={state.weighing}
            choose={(weighing) => set({ weighing })}
          />
          <RadiusSlide />
        </>
      );
    case "smooth":
      return (
        <Choice
          label="How smooth"
          of={[
            ["1", "Tremor", "Takes a tremor out"],
            ["2", "Wobble", "Takes a wobble out"],
            ["3", "Long swings", "Leaves only long swings"],
          ]}
          value={String(state.smoothing) as "1" | "2" | "3"}
          choose={(smoothing) => set({ smoothing: Number(smoothing) as 1 | 2 | 3 })}
        />
      );
    case "cut":
      return (
        <Choice
          label="What goes"
          of={[
            ["to crossings", "To crossings", "What lies between the next crossings goes"],
            ["part", "Part", "The line becomes two there; nothing goes"],
          ]}
          value={state.cutting}
          choose={(cutting) => set({ cutting })}
        />
      );
    case "erase":
      return (
        <>
          <Choice
            label="What goes"
            of={[
              ["touched", "Touched"],
              ["to crossings", "To crossings"],
              ["whole", "Whole lines"],
            ]}
            value={state.erasing}
            choose={(erasing) => set({ erasing })}
          />
          <RadiusSlide />
        </>
      );
    case "repeat":
      return (
        <>
          <Slide
            label="Apart"
            value={state.repeating.gap}
            least={5}
            most={400}
            shown={`${(state.repeating.gap / 10).toFixed(1)} mm`}
            set={(gap) => set({ repeating: { ...state.repeating, gap } })}
          />
          <Tick
            on={state.repeating.turns}
            set={(turns) => set({ repeating: { ...state.repeating, turns } })}
            title="Copies turn as the way does; otherwise they stay upright"
          >
            Turn with the way
          </Tick>
        </>
      );
    case "speed":
    case "focus":
      return <RayOptions act={act} />;
    case "choose":
      return state.chosen.length > 0 ? null : (
        <span className="quiet">Tap a line, or loop around some</span>
      );
    case "redraw":
    case "join":
      return <span className="quiet">{hints[act]}</span>;
  }
}

/** What can be done with the lines that are chosen. */
function ChosenOptions({ session }: { session: Session }) {
  const count = useLines(({ chosen }) => chosen.length);
  const colour = useTable((state) => state.colour);
  if (count === 0) return null;
  const more = chosenActions(session);
  return (
    <span className="chosen-lines">
      <output>{count === 1 ? "1 line" : `${count} lines`}</output>
      <button
        type="button"
        className="btn btn-sm"
        title="Give the chosen lines the colour in hand"
        onClick={() => void setChosen(session, { colour })}
      >
        <span className="swatch" style={{ background: colour }} aria-hidden="true" /> Colour
      </button>
      <button
        type="button"
        className="btn btn-sm"
        title="A quarter wider"
        aria-label="Wider"
        onClick={() => void setChosen(session, { times: 1.25 })}
      >
        Wider
      </button>
      <button
        type="button"
        className="btn btn-sm"
        aria-label="Narrower"
        onClick={() => void setChosen(session, { times: 0.8 })}
      >
        Narrower
      </button>
      <Dropdown drop="up">
        <Dropdown.Toggle variant="" size="sm">
          More
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {likenesses.map((by) => (
            <Dropdown.Item
              key={by}
              as="button"
              type="button"
              onClick={() => void chooseLike(session, by)}
            >
              Choose all of the same {by}
            </Dropdown.Item>
          ))}
          <Dropdown.Divider />
          {more.map(({ name, act }) => (
            <Dropdown.Item key={name} as="button" type="button" onClick={() => void act()}>
              {name}
            </Dropdown.Item>
          ))}
        </Dropdown.Menu>
      </Dropdown>
    </span>
  );
}

/** Options of the tool that corrects lines. */
export function LineOptions({ session }: { session: Session }) {
  const { act, chosen, set } = useLines();
  const isOnLines = useTable(
    ({ picture, selected }) =>
      picture?.layers.find(({ id }) => id === selected[0])?.kind === "lines",
  );
  if (!isOnLines)
    return (
      <div className="region-options">
        <span>Lines are corrected on a line layer</span>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => void session.addLayer({ kind: "lines", name: "Lines" })}
        >
          Add a line layer
        </button>
      </div>
    );
  return (
    <div className="region-options">
      <Choice
        label="Correct lines"
        of={acts}
        value={act}
        choose={(next) => set({ act: next, way: [] })}
      />
      <div className="line">
        <ActOptions />
        {act === "choose" && chosen.length === 0 && (
          <button type="button" className="btn btn-sm" onClick={() => void chooseAll(session)}>
            Choose all
          </button>
        )}
        <ChosenOptions session={session} />
      </div>
    </div>
  );
}
