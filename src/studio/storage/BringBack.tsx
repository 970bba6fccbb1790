"use client";

import { useState } from "react";
import { Modal } from "react-bootstrap";
import {
  type Inside,
  type Standing,
  type Wish,
  type Wishes,
} from "../../storage/everything/bring-back";
import { Tick } from "../ui/Tick";

const inWords = new Intl.DateTimeFormat(undefined, { dateStyle: "medium", timeStyle: "short" });

/** What may become of a picture, the gentlest first. */
const choices: Record<Standing, readonly [Wish, string][]> = {
  missing: [
    ["replace", "bring it back"],
    ["leave", "leave it"],
  ],
  same: [
    ["leave", "leave it: it is the same"],
    ["replace", "take the copy’s tiles"],
    ["beside", "lay it beside"],
  ],
  other: [
    ["beside", "lay it beside the one here"],
    ["replace", "replace the one here"],
    ["leave", "leave it"],
  ],
};

const standings: Record<Standing, string> = {
  missing: "not here",
  same: "the same",
  other: "another one is here",
};

/** What a copy holds, beside what is here, and what is to become of it. */
export function BringBack({
  inside,
  busy,
  back,
  bringBack,
}: {
  inside: Inside;
  busy: boolean;
  back: () => void;
  bringBack: (wishes: Wishes) => void;
}) {
  const { made, pictures, brushes } = inside;
  const [wishes, setWishes] = useState<Wishes>(() => ({
    pictures: Object.fromEntries(
      pictures.map(({ index, is }): [number, Wish] => [index, choices[is][0]?.[0] ?? "leave"]),
    ),
    brushes: false,
    settings: false,
  }));
  return (
    <>
      <Modal.Body className="d-grid gap-3">
        <p className="quiet mb-0">
          Made on {inWords.format(made)}. Nothing here is replaced unless you say so.
        </p>
        <div className="sizes" tabIndex={0} role="region" aria-label="Pictures in the copy">
          <table>
            <thead>
              <tr>
                <th scope="col">Picture</th>
                <th scope="col">Last worked on</th>
                <th scope="col">Here</th>
                <th scope="col">What to do</th>
              </tr>
            </thead>
            <tbody>
              {pictures.map(({ index, title, touched, here, is }) => (
                <tr key={index}>
                  <th scope="row">{title}</th>
                  <td>{inWords.format(touched)}</td>
                  <td>
                    {standings[is]}
                    {is === "other" && here !== null && `, of ${inWords.format(here)}`}
                  </td>
                  <td>
                    <select
                      className="form-select form-select-sm"
                      aria-label={`What to do with ${title}`}
                      value={wishes.pictures[index]}
                      onChange={(event) =>
                        setWishes({
                          ...wishes,
                          pictures: {
                            ...wishes.pictures,
                            [index]: event.target.value as Wish,
                          },
                        })
                      }
                    >
                      {choices[is].map(([wish, label]) => (
                        <option key={wish} value={wish}>
                          {label}
                        </option>
                      ))}
                    </select>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div className="d-grid gap-1">
          {brushes.missing > 0 && (
            <span className="quiet">
              {brushes.missing === 1 ? "One brush" : `${brushes.missing} brushes`} of yours that are
              not here come back too.
            </span>
          )}
          {brushes.other > 0 && (
            <Tick on={wishes.brushes} set={(on) => setWishes({ ...wishes, brushes: on })}>
              {brushes.other === 1 ? "A brush" : `${brushes.other} brushes`} that you have changed
              here: as in the copy
            </Tick>
          )}
          <Tick on={wishes.settings} set={(on) => setWishes({ ...wishes, settings: on })}>
            Settings, keys, wells and favourites: as in the copy
          </Tick>
        </div>
      </Modal.Body>
      <Modal.Footer>
        <button type="button" className="btn" disabled={busy} onClick={back}>
          Back
        </button>
        <button
          type="button"
          className="btn btn-strong"
          disabled={busy}
          onClick={() => bringBack(wishes)}
        >
          Bring back
        </button>
      </Modal.Footer>
    </>
  );
}
