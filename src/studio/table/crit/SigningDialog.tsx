"use client";

import { useEffect, useMemo, useRef, useState } from "react";
import { Modal } from "react-bootstrap";
import { toEdges } from "../../../engine/crit/edges";
import { toMasses } from "../../../engine/crit/masses";
import { toTemperature } from "../../../engine/crit/temperature";
import { toValues, valueShares } from "../../../engine/crit/values";
import { fittedSize, shrunk } from "../../../engine/file/shrink";
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
  look?: "mirrored" | "squint" | "afar";
};

const percent = (share: number): string => `${Math.round(share * 100)} %`;

function smaller(snapshot: Snapshot, longest: number): Snapshot {
  const size = fittedSize(snapshot, { width: longest, height: longest });
  const { data } = shrunk({ ...snapshot, data: new Uint8Array(snapshot.data.buffer) }, size);
  return { ...size, data: new Uint8ClampedArray(data) };
}

/** All the checks of one picture. */
function checksOf(whole: Snapshot): Check[] {
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
    {
      name: "From afar",
      said: `${AFAR} px wide or high`,
      picture: smaller(whole, AFAR),
      look: "afar",
    },
  ];
}

function Shown({ picture, look, name }: Check) {
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
    </span>
  );
}

/** Every check side by side, to be gone through before a picture is signed. */
export function SigningDialog({ session }: { session: Session }) {
  const set = useTable((state) => state.set);
  const [whole, setWhole] = useState<Snapshot | null>(null);
  const hide = (): void => set({ dialog: null });
  useEffect(() => {
    void session.link.api.seenBefore(0).then((answer) => {
      if (answer.ok) setWhole(answer.value);
      else tell(answer.why);
    });
  }, [session]);
  const checks = useMemo(() => (whole ? checksOf(whole) : []), [whole]);
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
