"use client";

import { Star } from "lucide-react";
import { useEffect, useRef } from "react";
import { type Brush } from "../../engine/stroke/brush";
import { type Painted } from "../../worker/cards";
import { type Answer } from "../../worker/protocol";
import { type Session } from "../table/session";
import { useTable } from "../table/table-store";
import { useBrushBox } from "./brush-box";

const COLOURS = { ground: "#f4f2ee", colour: "#23242c", second: "#c39a4e" };
/** Cards are painted once a page, when they are first seen, and kept; a changed brush is another one. */
const painted = new WeakMap<Brush, Promise<Answer<Painted>>>();

function cardOf(session: Session, brush: Brush): Promise<Answer<Painted>> {
  const known = painted.get(brush);
  if (known) return known;
  const card = session.link.api.card(brush, COLOURS);
  painted.set(brush, card);
  return card;
}

/** A stroke really painted by its brush, with its name under it. */
export function BrushCard({ session, brush }: { session: Session; brush: Brush }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const isChosen = useTable((state) => state.brush === brush.id && state.tool !== "strew");
  const chooseBrush = useTable((state) => state.chooseBrush);
  const isFavourite = useBrushBox((state) => state.favourites.includes(brush.id));
  useEffect(() => {
    const node = canvas.current;
    if (!node) return;
    const paint = (): void => {
      void cardOf(session, brush).then((card) => {
        if (!card.ok) return;
        const { data, width, height } = card.value;
        node.getContext("2d")?.putImageData(new ImageData(data, width, height), 0, 0);
        node.dataset.painted = "";
      });
    };
    const seen = new IntersectionObserver(
      ([entry]) => {
        if (!entry?.isIntersecting) return;
        seen.disconnect();
        paint();
      },
      { rootMargin: "0px 200px" },
    );
    seen.observe(node);
    return () => seen.disconnect();
  }, [brush, session]);
  return (
    <button
      type="button"
      className="brush-card"
      role="radio"
      aria-checked={isChosen}
      onClick={() => chooseBrush(brush.id)}
    >
      <canvas ref={canvas} width={188} height={96} aria-hidden="true" />
      <span>
        {brush.name}
        {isFavourite && <Star size={10} aria-label="favourite" />}
      </span>
    </button>
  );
}
