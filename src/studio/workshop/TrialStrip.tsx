"use client";

import { useCallback, useEffect, useRef, useState } from "react";
import { type Brush } from "../../engine/stroke/brush";
import { type Sample } from "../../engine/stroke/sample";
import { cannedStrokes, type TrialChoice } from "../../worker/trial";
import { type Session } from "../table/session";
import { type Mode, useTable } from "../table/table-store";
import { seenOn, type TrialGround, trialGrounds, useWorkshop } from "./workshop-store";

const HEIGHT = 236;
const UPRIGHT = Math.PI / 2;

type TrialStripProps = { session: Session; brush: Brush; size: number; mode: Mode };

function sampleOf(event: React.PointerEvent, began: number, element: Element): Sample {
  const box = element.getBoundingClientRect();
  const native = event.nativeEvent;
  const isPen = event.pointerType === "pen";
  return [
    Math.max(0, event.timeStamp - began),
    event.clientX - box.left,
    event.clientY - box.top,
    isPen ? event.pressure : 0.5,
    isPen ? (native.altitudeAngle ?? UPRIGHT) : UPRIGHT,
    isPen ? (native.azimuthAngle ?? 0) : 0,
    (event.twist * Math.PI) / 180,
  ];
}

/**
 * A strip of paper that repaints while a control moves: canned strokes, or the hand's own
 * once something was drawn on it. One painting at a time; only the newest wish is painted next.
 */
export function TrialStrip({ session, brush, size, mode }: TrialStripProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const [drawn, setDrawn] = useState<Sample[][]>([]);
  const [live, setLive] = useState<{ began: number; samples: Sample[] } | null>(null);
  const [said, setSaid] = useState<{ cost: number } | { why: string } | null>(null);
  const colour = useTable((state) => state.colour);
  const second = useTable((state) => state.second);
  const ground = useWorkshop((state) => state.ground);
  const setWorkshop = useWorkshop((state) => state.set);
  const wish = useRef<{ brush: Brush; choice: TrialChoice } | null>(null);
  const busy = useRef(false);

  const paint = useCallback(async (): Promise<void> => {
    if (busy.current) return;
    busy.current = true;
    while (wish.current) {
      const { brush: asked, choice } = wish.current;
      wish.current = null;
      const answer = await session.link.api.tryBrush(asked, choice);
      if (!answer.ok) {
        setSaid({ why: answer.why });
        continue;
      }
      const { data, width: w, height: h, msPer100 } = answer.value;
      const node = canvas.current;
      if (!node) break;
      node.width = w;
      node.height = h;
      node.getContext("2d")?.putImageData(new ImageData(data, w, h), 0, 0);
      setSaid({ cost: msPer100 });
    }
    busy.current = false;
  }, [session]);

  useEffect(() => {
    const node = canvas.current?.parentElement;
    if (!node) return;
    const observer = new ResizeObserver(() => setWidth(Math.floor(node.clientWidth)));
    observer.observe(node);
    return () => observer.disconnect();
  }, []);

  useEffect(() => {
    if (width < 50) return;
    const strokes = live && live.samples.length > 0 ? [...drawn, live.samples] : drawn;
    wish.current = {
      brush,
      choice: {
        sheet: {
          width,
          height: HEIGHT,
          ground: trialGrounds[ground],
          colour: seenOn(ground, colour, second),
          second,
        },
        drawn: strokes,
        size,
        mode,
      },
    };
    void paint();
  }, [brush, width, drawn, live, size, mode, colour, second, ground, paint]);

  const finish = (): void => {
    if (live && live.samples.length > 0) setDrawn([...drawn, live.samples]);
    setLive(null);
  };
  return (
    <div className="trial">
      <div className={`paper ${ground}`} style={{ background: trialGrounds[ground] }}>
        <canvas
          ref={canvas}
          aria-label="Trial strip: draw on it to try the brush"
          data-testid="trial"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            const began = event.timeStamp;
            setLive({ began, samples: [sampleOf(event, began, event.currentTarget)] });
          }}
          onPointerMove={(event) => {
            if (!live) return;
            const sample = sampleOf(event, live.began, event.currentTarget);
            setLive({ ...live, samples: [...live.samples, sample] });
          }}
          onPointerUp={finish}
          onPointerCancel={finish}
        />
        {drawn.length === 0 && !live && (
          <ol aria-hidden="true">
            {Object.keys(cannedStrokes).map((name) => (
              <li key={name}>{name}</li>
            ))}
          </ol>
        )}
      </div>
      <div className="said">
        {said && "why" in said && <span role="alert">{said.why}</span>}
        {said && "cost" in said && (
          <span data-testid="cost">
            {said.cost < 0.1 ? "under 0.1" : said.cost.toFixed(1)} ms for 100 px at {size} px
          </span>
        )}
        <div className="grounds" role="radiogroup" aria-label="Paper of the strip">
          {(Object.keys(trialGrounds) as TrialGround[]).map((name) => (
            <button
              key={name}
              type="button"
              role="radio"
              aria-checked={ground === name}
              aria-label={`On ${name}`}
              title={`On ${name} paper`}
              style={{ background: trialGrounds[name] }}
              onClick={() => setWorkshop({ ground: name })}
            />
          ))}
        </div>
        <span className="quiet">Draw on the strip to try it with your own hand.</span>
        <button
          type="button"
          className="btn btn-sm"
          disabled={drawn.length === 0}
          onClick={() => setDrawn([])}
        >
          Clear the strip
        </button>
      </div>
    </div>
  );
}
