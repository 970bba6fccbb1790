"use client";

import { useEffect, useMemo, useRef, useState } from "react";
import { Modal } from "react-bootstrap";
import { toEdges } from "../../../engine/crit/edges";
import { againstLight, lightOnSheet, type LitForm, litForms } from "../../../engine/crit/lit-forms";
import { toMasses } from "../../../engine/crit/masses";
import { toTemperature } from "../../../engine/crit/temperature";
import { toValues, valueShares } from "../../../engine/crit/values";
import { fittedSize, shrunk } from "../../../engine/file/shrink";
import { type SunPin } from "../../../engine/sun/sun-pin";
import { type Snapshot } from "../../../worker/snapshot";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";

/** Longest side of the small pictures, and of the one that shows how the work reads from afar, px. */
const SHOWN = 360;
const AFAR = 120;

type Check = {
  name: string;
  said: string;
  picture: Snapshot;
  look?: "mirrored" | "upside down" | "squint" | "afar";
  marks?: { forms: readonly LitForm[]; pin: number };
};

const percent = (share: number): string => `${Math.round(share * 100)} %`;

function smaller(snapshot: Snapshot, longest: number): Snapshot {
  const size = fittedSize(snapshot, { width: longest, height: longest });
  const { data } = shrunk({ ...snapshot, data: new Uint8Array(snapshot.data.buffer) }, size);
  return { ...size, data: new Uint8ClampedArray(data) };
}

/** Whether forms are lit from where the sun pin says. */
function lightCheck(picture: Snapshot, sun: SunPin | null): Check {
  const check = { name: "Light", picture };
  if (!sun) return { ...check, said: "Set the sun pin, and forms are held against it" };
  const pin = lightOnSheet(sun);
  if (pin === null) return { ...check, said: "The sun pin’s light comes from the front" };
  const { data, width, height } = picture;
  const forms = litForms(data, width, height);
  const against = againstLight(forms, pin).length;
  const said =
    forms.length === 0
      ? "No form with a light and a shade side was found"
      : against === 0
        ? `${forms.length === 1 ? "The one form" : `All ${forms.length} forms`} found: lit as the sun pin says`
        : `${against} of ${forms.length} lit against the sun pin: full arrow as painted, dashed as it says`;
  return { ...check, said, marks: { forms, pin } };
}

/** All the checks of one picture. */
function checksOf(whole: Snapshot, sun: SunPin | null): Check[] {
  const small = smaller(whole, SHOWN);
  const changed = <T,>(change: (data: Uint8ClampedArray<ArrayBuffer>) => T): [Snapshot, T] => {
    const data = small.data.slice();
    const told = change(data);
    return [{ ...small, data }, told];
  };
  const [dark = 0, middle = 0, light = 0] = valueShares(small.data, 3);
  const [greys] = changed((data) => toValues(data, 0));
  const [three] = changed((data) => toValues(data, 3));
  const [masses, darkMass] = changed(toMasses);
  const [heat, { warm, cool }] = changed(toTemperature);
  const [edges, hard] = changed((data) => toEdges(data, small.width, small.height));
  return [
    { name: "Mirrored", said: "What leans shows", picture: small, look: "mirrored" },
    { name: "Upside down", said: "Shapes, no more things", picture: small, look: "upside down" },
    { name: "Values", said: "Without its colours", picture: greys },
    {
      name: "Three values",
      said: `Dark ${percent(dark)}, middle ${percent(middle)}, light ${percent(light)}`,
      picture: three,
    },
    {
      name: "Two masses",
      said: `Dark ${percent(darkMass)}, light ${percent(1 - darkMass)}`,
      picture: masses,
    },
    { name: "Squinted at", said: "What is left of it", picture: small, look: "squint" },
    { name: "Temperature", said: `Warm ${percent(warm)}, cool ${percent(cool)}`, picture: heat },
    {
      name: "Edges",
      said:
        hard === null
          ? "There are none"
          : `Hard ${percent(hard)} (red), soft ${percent(1 - hard)} (blue)`,
      picture: edges,
    },
    lightCheck(small, sun),
    {
      name: "From afar",
      said: `${AFAR} px wide or high`,
      picture: smaller(whole, AFAR),
      look: "afar",
    },
  ];
}

/** Forms of a picture, and where their light comes from; beside those that disagree, where the pin's does. */
function LightMarks({ forms, pin }: NonNullable<Check["marks"]>) {
  const wrong = new Set(againstLight(forms, pin));
  const arrow = ({ at: [x, y], reach }: LitForm, from: number, kind: string) => {
    const [dx, dy] = [Math.cos(from), Math.sin(from)];
    const [near, far] = [reach * 0.45, reach * 1.5 + 8];
    const tip = [x + dx * near, y + dy * near] as const;
    const side = (turn: number): string =>
      `${tip[0] + 9 * Math.cos(from + turn)} ${tip[1] + 9 * Math.sin(from + turn)}`;
    return (
      <path
        className={kind}
        d={`M${x + dx * far} ${y + dy * far}L${tip.join(" ")}M${side(0.45)}L${tip.join(" ")}L${side(-0.45)}`}
      />
    );
  };
  return forms.map((form) => {
    const isWrong = wrong.has(form);
    return (
      <g key={form.at.join(" ")}>
        {isWrong && arrow(form, pin, "pin")}
        {arrow(form, form.from, isWrong ? "against" : "agrees")}
      </g>
    );
  });
}

function Shown({ picture, look, name, marks }: Check) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const { width, height, data } = picture;
    canvas.current?.getContext("2d")?.putImageData(new ImageData(data, width, height), 0, 0);
  }, [picture]);
  return (
    <span className="shown" data-look={look}>
      <canvas
        ref={canvas}
        width={picture.width}
        height={picture.height}
        role="img"
        aria-label={name}
      />
      {marks && (
        <svg viewBox={`0 0 ${picture.width} ${picture.height}`} aria-hidden="true">
          <LightMarks {...marks} />
        </svg>
      )}
    </span>
  );
}

/** Every check side by side, to be gone through before a picture is signed. */
export function SigningDialog({ session }: { session: Session }) {
  const set = useTable((state) => state.set);
  const sun = useTable((state) => state.picture?.sun ?? null);
  const [whole, setWhole] = useState<Snapshot | null>(null);
  const hide = (): void => set({ dialog: null });
  useEffect(() => {
    void session.link.api.seenBefore(0).then((answer) => {
      if (answer.ok) setWhole(answer.value);
      else tell(answer.why);
    });
  }, [session]);
  const checks = useMemo(() => (whole ? checksOf(whole, sun) : []), [whole, sun]);
  return (
    <Modal show onHide={hide} size="xl" aria-label="Before signing" className="signing">
      <Modal.Header closeButton>
        <Modal.Title as="h2">Before signing</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <ul>
          {checks.map((check) => (
            <li key={check.name}>
              <Shown {...check} />
              <b>{check.name}</b>
              <small className="quiet">{check.said}</small>
            </li>
          ))}
        </ul>
      </Modal.Body>
    </Modal>
  );
}
