"use client";

import { Plus, X } from "lucide-react";
import { useEffect, useRef } from "react";
import { madeTips, type MadeTip } from "../../engine/stroke/made-tips";
import { type Tip, type TipPicture } from "../../engine/stroke/tip";
import { tipTones } from "../../engine/stroke/tip-tones";
import { tipPixels } from "../../engine/stroke/tip-shelf";
import { type TipMaking } from "../../engine/stroke/tip-from";
import { tell } from "../notices/notices";
import { type Session } from "../table/session";
import { useTable } from "../table/table-store";
import { NumberRow } from "./ParameterEditor";
import { useWorkshop } from "./workshop-store";

const THUMB = 52;

/** A tip's picture, small: its paint dark on the card. */
function TipThumb({ picture }: { picture: TipPicture }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (!context) return;
    const { width, height, data } = tipPixels(picture);
    const small = new OffscreenCanvas(width, height);
    small
      .getContext("2d")
      ?.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
    const scale = Math.min(THUMB / width, THUMB / height);
    context.clearRect(0, 0, THUMB, THUMB);
    context.drawImage(
      small,
      (THUMB - width * scale) / 2,
      (THUMB - height * scale) / 2,
      width * scale,
      height * scale,
    );
  }, [picture]);
  return <canvas ref={canvas} width={THUMB} height={THUMB} aria-hidden="true" />;
}

const makingNames: Record<TipMaking, string> = {
  coverage: "one tone",
  "two tones": "two tones",
  colours: "its own colours",
};

type TipSectionProps = {
  session: Session;
  tip: Tip;
  onChange: (tip: Tip) => void;
};

/** What is set down: a round tip, or pictures. */
export function TipSection({ session, tip, onChange }: TipSectionProps) {
  const file = useRef<HTMLInputElement>(null);
  const { making, set } = useWorkshop();
  const pictures = tip.kind === "pictures" ? tip.pictures : [];
  const withPictures = (next: TipPicture[]): void => {
    if (next.length === 0) return onChange({ kind: "round", hardness: 0.5 });
    if (next.length > 16) return tell("A tip has at most 16 pictures.");
    onChange(
      tip.kind === "pictures"
        ? { ...tip, pictures: next }
        : { kind: "pictures", pictures: next, choice: "in turn", flip: { across: 0, along: 0 } },
    );
  };
  const fromFile = async (chosen: File): Promise<void> => {
    const bytes = new Uint8Array(await chosen.arrayBuffer());
    const answer = await session.link.api.tipFromFile(bytes, making);
    if (answer.ok) withPictures([...pictures, answer.value]);
    else tell(`“${chosen.name}” is no tip: ${answer.why}.`);
  };
  return (
    <>
      <div className="kinds" role="radiogroup" aria-label="Tip">
        <button
          type="button"
          role="radio"
          aria-checked={tip.kind === "round"}
          onClick={() => tip.kind !== "round" && onChange({ kind: "round", hardness: 0.5 })}
        >
          Round
        </button>
        <button
          type="button"
          role="radio"
          aria-checked={tip.kind === "pictures"}
          onClick={() => tip.kind !== "pictures" && withPictures([{ made: "chalk face" }])}
        >
          Pictures
        </button>
      </div>
      {tip.kind === "round" && (
        <NumberRow
          label="Hardness"
          least={0}
          most={1}
          step={0.01}
          times={100}
          unit="%"
          value={tip.hardness}
          onChange={(hardness) => onChange({ ...tip, hardness })}
        />
      )}
      {tip.kind === "pictures" && (
        <>
          <ul className="tip-pictures" aria-label="Pictures of the tip">
            {pictures.map((picture, i) => (
              <li key={i}>
                <TipThumb picture={picture} />
                <button
                  type="button"
                  aria-label={`Take picture ${i + 1} off the tip`}
                  onClick={() => withPictures(pictures.filter((_, j) => j !== i))}
                >
                  <X size={12} />
                </button>
              </li>
            ))}
          </ul>
          <label className="choice">
            Which one
            <select
              className="form-select form-select-sm"
              value={tip.choice}
              onChange={(event) =>
                onChange({ ...tip, choice: event.target.value as (typeof tip)["choice"] })
              }
            >
              <option value="in turn">in turn</option>
              <option value="by chance">by chance, each mark</option>
              <option value="one a stroke">by chance, each stroke</option>
            </select>
          </label>
          <NumberRow
            label="Turned over, left to right"
            least={0}
            most={1}
            step={0.05}
            times={100}
            unit="%"
            value={tip.flip.across}
            onChange={(across) => onChange({ ...tip, flip: { ...tip.flip, across } })}
          />
          <NumberRow
            label="Turned over, top to bottom"
            least={0}
            most={1}
            step={0.05}
            times={100}
            unit="%"
            value={tip.flip.along}
            onChange={(along) => onChange({ ...tip, flip: { ...tip.flip, along } })}
          />
        </>
      )}
      <h3 className="mt-3">Add a picture</h3>
      <label className="choice">
        Made by rule
        <select
          className="form-select form-select-sm"
          value=""
          onChange={(event) => withPictures([...pictures, { made: event.target.value as MadeTip }])}
        >
          <option value="" disabled>
            choose…
          </option>
          {Object.keys(madeTips).map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <label className="choice">
        From paint, in
        <select
          className="form-select form-select-sm"
          value={making}
          onChange={(event) => set({ making: event.target.value as TipMaking })}
        >
          {tipTones.map((name) => (
            <option key={name} value={name}>
              {makingNames[name]}
            </option>
          ))}
        </select>
      </label>
      {making === "two tones" && (
        <p className="quiet">
          The shape is laid dark, and light once more a little up and to the left: first and second
          colour.
        </p>
      )}
      <div className="row-of-buttons">
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            set({ takesTip: (picture) => withPictures([...pictures, picture]) });
            useTable.setState({ dialog: null, tool: "tip box" });
          }}
        >
          <Plus size={13} /> Box on the picture
        </button>
        <button type="button" className="btn btn-sm" onClick={() => file.current?.click()}>
          <Plus size={13} /> File
        </button>
        <input
          ref={file}
          type="file"
          hidden
          accept="image/png,image/jpeg,image/webp"
          aria-label="Picture for the tip"
          onChange={(event) => {
            const [chosen] = event.target.files ?? [];
            event.target.value = "";
            if (chosen) void fromFile(chosen);
          }}
        />
      </div>
    </>
  );
}
