"use client";

import { useCallback, useEffect, useMemo, useRef } from "react";
import {
  greatestChroma,
  hexToOklch,
  isInGamut,
  linearToRgb,
  oklchToHex,
  oklchToLinear,
  type Rgb,
} from "../../engine/colour/oklch";
import { useTable } from "./table-store";

/** CSS px. */
const WIDTH = 224;
const HEIGHT = 176;
const MARGIN = 6;
const SCALE = 2;
/** Chroma that reaches from the spine to the outer edge. */
const WIDEST = 0.33;

/** The page's greatest chroma in use, so that every hue fills its spread. */
function reach(hue: number): number {
  let most = 0.08;
  for (let l = 0.3; l <= 0.98; l += 0.04)
    most = Math.max(most, greatestChroma(l, hue), greatestChroma(l, hue + 180));
  return Math.min(WIDEST, most * 1.04);
}

/** x −1…1 from the outer edge of the left page to that of the right, y 0…1 upward, as a colour. */
function colourAt(
  x: number,
  y: number,
  hue: number,
  widest: number,
): { l: number; c: number; h: number } {
  return { l: y, c: Math.abs(x) * widest, h: x < 0 ? (hue + 180) % 360 : hue };
}

function paintLeaf(context: CanvasRenderingContext2D, hue: number, widest: number): void {
  const width = WIDTH * SCALE;
  const height = HEIGHT * SCALE;
  const image = context.createImageData(width, height);
  const inner = height - 2 * MARGIN * SCALE;
  for (let py = 0, at = 0; py < height; py++) {
    const y = 1 - (py - MARGIN * SCALE) / inner;
    for (let px = 0; px < width; px++, at += 4) {
      if (y < 0 || y > 1) continue;
      const x = (px + 0.5) / (width / 2) - 1;
      const linear = oklchToLinear(colourAt(x, y, hue, widest));
      // The spine stays one line of grey from black to white.
      if (!isInGamut(linear, 1e-4 * y) && Math.abs(x) > 0.012) continue;
      const rgb: Rgb = linearToRgb(linear);
      image.data[at] = rgb[0] * 255 + 0.5;
      image.data[at + 1] = rgb[1] * 255 + 0.5;
      image.data[at + 2] = rgb[2] * 255 + 0.5;
      image.data[at + 3] = 255;
    }
  }
  context.putImageData(image, 0, 0);
}

/**
 * The colour picker: a spread of two pages. The right page is the hue, the left its
 * complement, the spine between them grey; up is lighter, outward stronger. What sRGB
 * cannot show is not drawn, which gives each page its shape.
 */
export function Leaf() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const hue = useTable((state) => state.hue);
  const colour = useTable((state) => state.colour);
  const chooseColour = useTable((state) => state.chooseColour);
  const widest = useMemo(() => reach(hue), [hue]);

  useEffect(() => {
    const context = canvas.current?.getContext("2d");
    if (context) paintLeaf(context, hue, widest);
  }, [hue, widest]);

  const { l, c, h } = hexToOklch(colour);
  const isLeft = Math.abs(((h - hue + 540) % 360) - 180) > 90;
  const side = c < 0.004 ? 0 : isLeft ? -1 : 1;
  const x = Math.min(1, c / widest) * side;

  const choose = useCallback(
    (nx: number, ny: number) => {
      const wanted = colourAt(
        Math.min(1, Math.max(-1, nx)),
        Math.min(1, Math.max(0, ny)),
        hue,
        widest,
      );
      chooseColour(
        oklchToHex({ ...wanted, c: Math.min(wanted.c, greatestChroma(wanted.l, wanted.h)) }),
        true,
      );
    },
    [hue, widest, chooseColour],
  );

  const point = (event: React.PointerEvent<HTMLCanvasElement>): void => {
    const box = event.currentTarget.getBoundingClientRect();
    const nx = ((event.clientX - box.left) / box.width) * 2 - 1;
    choose(nx, 1 - (event.clientY - box.top - MARGIN) / (box.height - 2 * MARGIN));
  };

  const press = (event: React.KeyboardEvent): void => {
    const step = event.shiftKey ? 0.1 : 0.02;
    const moves: Record<string, [number, number]> = {
      ArrowLeft: [x - step, l],
      ArrowRight: [x + step, l],
      ArrowUp: [x, l + step],
      ArrowDown: [x, l - step],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    choose(...move);
  };

  return (
    <div className="leaf">
      <canvas
        ref={canvas}
        width={WIDTH * SCALE}
        height={HEIGHT * SCALE}
        tabIndex={0}
        role="slider"
        aria-label="Leaf: up and down for value, left and right for chroma"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(l * 100)}
        aria-valuetext={`value ${Math.round(l * 100)}, chroma ${Math.round(c * 1000)}, ${side < 0 ? "complement" : "hue"} page`}
        onKeyDown={press}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          point(event);
        }}
        onPointerMove={(event) => {
          if (event.buttons & 1) point(event);
        }}
      />
      <div
        className="eye"
        style={{
          left: ((x + 1) / 2) * WIDTH,
          top: MARGIN + (1 - l) * (HEIGHT - 2 * MARGIN),
          background: colour,
        }}
      />
    </div>
  );
}
