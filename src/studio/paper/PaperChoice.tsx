"use client";

import { useEffect, useRef } from "react";
import { PAPER_SIDE, paperHeights, paperKinds, type PaperKind } from "../../engine/paper/paper";

/** Shows a paper's grain, lit from the upper left. */
function Grain({ kind, ground }: { kind: PaperKind; ground: string }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    // A paper takes a while to make the first time: the dialog answers before it.
    const waiting = requestIdleCallback(
      () => canvas.current && paintGrain(canvas.current, kind, ground),
      { timeout: 300 },
    );
    return () => cancelIdleCallback(waiting);
  }, [kind, ground]);
  return <canvas ref={canvas} width={140} height={60} aria-hidden="true" />;
}

function paintGrain(node: HTMLCanvasElement, kind: PaperKind, ground: string): void {
  const context = node.getContext("2d");
  if (!context) return;
  const heights = paperHeights(kind);
  const image = context.createImageData(node.width, node.height);
  const value = parseInt(ground.slice(1), 16);
  const base = [value >> 16, (value >> 8) & 255, value & 255];
  for (let y = 0, at = 0; y < node.height; y++)
    for (let x = 0; x < node.width; x++, at += 4) {
      const here = heights[y * PAPER_SIDE + x] as number;
      const next = heights[(y + 1) * PAPER_SIDE + x + 1] as number;
      const light = 1 + ((next - here) / 65535) * -0.28 + (here / 65535 - 0.5) * 0.12;
      base.forEach((v, c) => {
        image.data[at + c] = v * light;
      });
      image.data[at + 3] = 255;
    }
  context.putImageData(image, 0, 0);
}

export function PaperChoice({
  kind,
  ground,
  choose,
}: {
  kind: PaperKind;
  ground: string;
  choose: (kind: PaperKind) => void;
}) {
  return (
    <div className="paper-choice" role="radiogroup" aria-label="Paper">
      {(Object.keys(paperKinds) as PaperKind[]).map((own) => (
        <button
          key={own}
          type="button"
          role="radio"
          aria-checked={own === kind}
          onClick={() => choose(own)}
        >
          <Grain kind={own} ground={ground} />
          {paperKinds[own]}
        </button>
      ))}
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
