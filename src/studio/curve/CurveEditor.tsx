"use client";

import { useRef, useState } from "react";
import { type Curve, monotoneCubic } from "../../engine/stroke/curve";

const WIDTH = 172;
const HEIGHT = 96;
const MARGIN = 7;
const SAMPLES = 48;
const MOST_POINTS = 16;
/** How near two points may come, as a share of the width. */
const APART = 0.02;
const NUDGE = 0.02;

type CurveEditorProps = {
  label: string;
  curve: Curve;
  /** What the upper and lower edge mean. */
  least: number;
  most: number;
  onChange: (curve: Curve) => void;
};

const clamp = (v: number, least: number, most: number): number =>
  Math.min(most, Math.max(least, v));

const rounded = (v: number): number => Math.round(v * 1000) / 1000;

/**
 * A driver's curve: points to drag; press between them for a new one, Delete or a drag off
 * the edge takes one away.
 */
export function CurveEditor({ label, curve, least, most, onChange }: CurveEditorProps) {
  const svg = useRef<SVGSVGElement>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const x = (u: number): number => MARGIN + u * (WIDTH - 2 * MARGIN);
  const y = (v: number): number =>
    HEIGHT - MARGIN - ((v - least) / (most - least)) * (HEIGHT - 2 * MARGIN);
  const at = monotoneCubic(curve);
  const path = Array.from({ length: SAMPLES + 1 }, (_, i) => {
    const u = i / SAMPLES;
    return `${i === 0 ? "M" : "L"}${x(u).toFixed(1)} ${y(clamp(at(u), least, most)).toFixed(1)}`;
  }).join("");

  const placeOf = (event: { clientX: number; clientY: number }): [number, number] => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return [0, 0];
    const u = ((event.clientX - box.left) * (WIDTH / box.width) - MARGIN) / (WIDTH - 2 * MARGIN);
    const v =
      (HEIGHT - MARGIN - (event.clientY - box.top) * (HEIGHT / box.height)) / (HEIGHT - 2 * MARGIN);
    return [u, least + v * (most - least)];
  };

  const move = (index: number, u: number, v: number): void => {
    const before = curve[index - 1]?.[0] ?? -APART;
    const after = curve[index + 1]?.[0] ?? 1 + APART;
    const isEnd = index === 0 || index === curve.length - 1;
    const held = isEnd ? (curve[index]?.[0] ?? 0) : clamp(u, before + APART, after - APART);
    onChange(
      curve.map((point, i) =>
        i === index ? [rounded(held), rounded(clamp(v, least, most))] : point,
      ),
    );
  };

  const remove = (index: number): void => {
    if (index === 0 || index === curve.length - 1 || curve.length <= 2) return;
    setChosen(null);
    onChange(curve.filter((_, i) => i !== index));
  };

  const add = (u: number, v: number): void => {
    if (curve.length >= MOST_POINTS) return;
    if (curve.some(([other]) => Math.abs(other - u) < APART) || u <= 0 || u >= 1) return;
    const next: Curve = [
      ...curve,
      [rounded(u), rounded(clamp(v, least, most))] as [number, number],
    ];
    next.sort((a, b) => a[0] - b[0]);
    setChosen(next.findIndex(([other]) => other === rounded(u)));
    onChange(next);
  };

  const point = chosen === null ? undefined : curve[chosen];
  return (
    <div className="curve">
      <svg
        ref={svg}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        role="group"
        aria-label={label}
        onPointerDown={(event) => {
          if (event.target === event.currentTarget || (event.target as Element).tagName === "path")
            add(...placeOf(event));
        }}
      >
        <rect x={MARGIN} y={MARGIN} width={WIDTH - 2 * MARGIN} height={HEIGHT - 2 * MARGIN} />
        {least < 0 && <line x1={MARGIN} x2={WIDTH - MARGIN} y1={y(0)} y2={y(0)} />}
        <path d={path} />
        {curve.map(([u, v], i) => (
          <circle
            key={i}
            cx={x(u)}
            cy={y(clamp(v, least, most))}
            r={4.5}
            tabIndex={0}
            role="slider"
            aria-label={`${label}, point ${i + 1}`}
            aria-valuemin={least}
            aria-valuemax={most}
            aria-valuenow={v}
            aria-valuetext={`at ${Math.round(u * 100)}%: ${v}`}
            data-chosen={chosen === i || undefined}
            onFocus={() => setChosen(i)}
            onPointerDown={(event) => {
              setChosen(i);
              event.currentTarget.setPointerCapture(event.pointerId);
            }}
            onPointerMove={(event) => {
              if (event.currentTarget.hasPointerCapture(event.pointerId))
                move(i, ...placeOf(event));
            }}
            onDoubleClick={() => remove(i)}
            onKeyDown={(event) => {
              const step = (most - least) * NUDGE;
              if (event.key === "ArrowUp") move(i, u, v + step);
              else if (event.key === "ArrowDown") move(i, u, v - step);
              else if (event.key === "ArrowLeft") move(i, u - NUDGE, v);
              else if (event.key === "ArrowRight") move(i, u + NUDGE, v);
              else if (event.key === "Delete" || event.key === "Backspace") remove(i);
              else if (event.key === "Enter") {
                const next = curve[i + 1];
                if (next) add((u + next[0]) / 2, (v + next[1]) / 2);
              } else return;
              event.preventDefault();
              event.stopPropagation();
            }}
          />
        ))}
      </svg>
      <div className="ends quiet" aria-hidden="true">
        <span>{rounded(most)}</span>
        <span>{point ? `${Math.round(point[0] * 100)}% → ${point[1]}` : ""}</span>
        <span>{rounded(least)}</span>
      </div>
    </div>
  );
}
