"use client";

import { ImagePlus } from "lucide-react";
import { useEffect, useRef } from "react";
import { type PaperKind } from "../../engine/paper/bands";
import { type Paper, paperKinds, surfaceOf } from "../../engine/paper/paper";
import { bringPapers } from "../../worker/papers";

/** A paper apart from the size of its grain. */
export type PaperLook = Pick<Paper, "kind" | "picture">;

/** Shows a paper's tooth under raking light from the upper left. */
function Grain({ paper, ground }: { paper: PaperLook; ground: string }) {
  const { kind, picture } = paper;
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    let wanted = true;
    void bringPapers().then(() => {
      if (wanted && canvas.current) paintGrain(canvas.current, { kind, picture, scale: 1 }, ground);
    });
    return () => {
      wanted = false;
    };
  }, [kind, picture, ground]);
  return <canvas ref={canvas} width={140} height={60} aria-hidden="true" />;
}

function paintGrain(node: HTMLCanvasElement, paper: Paper, ground: string): void {
  const context = node.getContext("2d");
  if (!context) return;
  const height = surfaceOf(paper);
  const image = context.createImageData(node.width, node.height);
  const value = parseInt(ground.slice(1), 16);
  const base = [value >> 16, (value >> 8) & 255, value & 255];
  for (let y = 0, at = 0; y < node.height; y++)
    for (let x = 0; x < node.width; x++, at += 4) {
      const here = height(x, y);
      const light = 1 + 0.38 * (here - height(x + 1, y + 1)) + 0.16 * here;
      base.forEach((v, c) => {
        image.data[at + c] = v * light;
      });
      image.data[at + 3] = 255;
    }
  context.putImageData(image, 0, 0);
}

export function PaperChoice({
  paper,
  ground,
  choose,
  fromPicture,
}: {
  paper: PaperLook;
  ground: string;
  choose: (paper: PaperLook) => void;
  /** Makes a paper of a file. */
  fromPicture: (file: File) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div className="paper-choice" role="radiogroup" aria-label="Paper">
      {(Object.keys(paperKinds) as PaperKind[]).map((own) => (
        <button
          key={own}
          type="button"
          role="radio"
          aria-checked={own === paper.kind}
          onClick={() => choose({ kind: own })}
        >
          <Grain paper={{ kind: own }} ground={ground} />
          {paperKinds[own]}
        </button>
      ))}
      <button
        type="button"
        role="radio"
        aria-checked={paper.kind === "picture"}
        onClick={() => input.current?.click()}
      >
        {paper.picture ? (
          <Grain paper={paper} ground={ground} />
        ) : (
          <span className="no-paper">
            <ImagePlus size={20} />
          </span>
        )}
        From a picture…
        <input
          ref={input}
          type="file"
          hidden
          accept=".png,.jpg,.jpeg,.webp,.avif,.tif,.tiff"
          aria-label="Picture of a paper"
          onClick={(event) => event.stopPropagation()}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (file) fromPicture(file);
            event.target.value = "";
          }}
        />
      </button>
    </div>
  );
}

export const grounds: readonly { name: string; hex: string }[] = [
  { name: "White", hex: "#ffffff" },
  { name: "Warm white", hex: "#f4efe6" },
  { name: "Cream", hex: "#eadfc4" },
  { name: "Mid grey", hex: "#8c8c8c" },
  { name: "Slate", hex: "#4a5058" },
  { name: "Night", hex: "#20242c" },
];

export function GroundChoice({
  ground,
  choose,
}: {
  ground: string;
  choose: (hex: string) => void;
}) {
  return (
    <div className="swatch-row">
      <div className="swatch-row" role="radiogroup" aria-label="Ground colour">
        {grounds.map(({ name, hex }) => (
          <button
            key={hex}
            type="button"
            className="swatch"
            role="radio"
            style={{ background: hex }}
            aria-checked={hex === ground}
            aria-label={name}
            title={name}
            onClick={() => choose(hex)}
          />
        ))}
      </div>
      <input
        type="color"
        className="form-control form-control-color"
        aria-label="Another ground colour"
        title="Another colour"
        value={ground}
        onChange={(event) => choose(event.target.value)}
      />
    </div>
  );
}
