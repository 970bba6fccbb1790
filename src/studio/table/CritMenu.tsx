"use client";

import { Eye } from "lucide-react";
import { Dropdown } from "react-bootstrap";
import { MOST_STEPS } from "../../engine/crit/values";
import { toggleCharts, toggleEyes, toggleHoles, toggleWipe, useCrit } from "./crit/crit-store";
import { keyName } from "./keys/key-map";
import { type Session } from "./session";
import { useParts, useTable } from "./table-store";

const steps = Array.from({ length: MOST_STEPS - 1 }, (_, i) => i + 2);

/** The checks: other ways to see the picture. None of them changes it. */
export function CritMenu({ session }: { session: Session }) {
  const { values, valueSteps, squint, keys, set } = useParts(
    "values",
    "valueSteps",
    "squint",
    "keys",
    "set",
  );
  const mirrored = useTable(({ view }) => view.mirrored);
  const sun = useTable((state) => state.picture?.sun ?? null);
  const { charts, eyes, holes, wipe } = useCrit();
  const isOn =
    charts !== null ||
    eyes !== null ||
    holes !== null ||
    wipe !== null ||
    values !== null ||
    squint ||
    mirrored;
  const choose = (next: number): void => {
    set({ valueSteps: next });
    session.lookAtValues(next);
  };
  return (
    <Dropdown>
      <Dropdown.Toggle
        as="button"
        type="button"
        className="btn btn-sm crit"
        aria-label="Crit"
        data-on={isOn || undefined}
      >
        <Eye size={15} /> Crit
      </Dropdown.Toggle>
      <Dropdown.Menu className="crit-menu">
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={values !== null}
          onClick={() => session.toggleValues()}
        >
          Values <kbd>{keyName(keys.values)}</kbd>
        </Dropdown.Item>
        <div className="steps" role="radiogroup" aria-label="Steps of value">
          <button
            type="button"
            role="radio"
            aria-checked={valueSteps === 0}
            onClick={() => choose(0)}
          >
            grey
          </button>
          {steps.map((n) => (
            <button
              key={n}
              type="button"
              role="radio"
              aria-checked={valueSteps === n}
              aria-label={`${n} steps`}
              onClick={() => choose(n)}
            >
              {n}
            </button>
          ))}
        </div>
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={squint}
          onClick={() => session.squint()}
        >
          Squint <kbd>{keyName(keys.squint)}</kbd>
        </Dropdown.Item>
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={mirrored}
          onClick={() => session.mirror()}
        >
          Mirror <kbd>{keyName(keys.mirror)}</kbd>
        </Dropdown.Item>
        <Dropdown.Divider />
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={charts !== null}
          onClick={() => void toggleCharts(session)}
        >
          Values and hues
        </Dropdown.Item>
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={eyes !== null}
          onClick={() => void toggleEyes(session)}
        >
          Where the eye goes
        </Dropdown.Item>
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={holes !== null}
          onClick={() => void toggleHoles(session)}
        >
          Holes
        </Dropdown.Item>
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={wipe !== null}
          onClick={() => void toggleWipe(session)}
        >
          Before and after
        </Dropdown.Item>
        <Dropdown.Item as="button" type="button" onClick={() => set({ dialog: "signing" })}>
          All checks, before signing…
        </Dropdown.Item>
        <Dropdown.Divider />
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={sun !== null}
          onClick={() => void session.toggleSun()}
        >
          Sun pin
        </Dropdown.Item>
        <Dropdown.Divider />
        <Dropdown.Item as="button" type="button" onClick={() => set({ dialog: "replay" })}>
          Replay the work…
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
