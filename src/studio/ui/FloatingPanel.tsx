"use client";

import { type KeyboardEvent, type PointerEvent, type ReactNode, useRef, useState } from "react";

/** Arrow keys move a panel by so much, CSS px. */
const STEP = 16;
/** So much of a panel always stays in view, CSS px. */
const KEPT = 60;

type Offset = readonly [x: number, y: number];

type FloatingPanelProps = {
  title: string;
  className?: string;
  /** What stands beside the title. */
  beside?: ReactNode;
  children: ReactNode;
};

/**
 * A panel over the picture that can be dragged off what it hides, by its title or with the
 * arrow keys; pressed twice the title puts it back.
 */
export function FloatingPanel({ title, className, beside, children }: FloatingPanelProps) {
  const panel = useRef<HTMLElement>(null);
  const [offset, setOffset] = useState<Offset>([0, 0]);
  const [grip, setGrip] = useState<Offset | null>(null);

  /** As near to a wished-for offset as leaves some of the panel in the view. */
  const held = ([x, y]: Offset): Offset => {
    const node = panel.current;
    const view = node?.parentElement;
    if (!node || !view) return [x, y];
    const { offsetLeft, offsetTop, offsetWidth } = node;
    return [
      Math.min(view.clientWidth - KEPT - offsetLeft, Math.max(KEPT - offsetWidth - offsetLeft, x)),
      Math.min(view.clientHeight - KEPT - offsetTop, Math.max(-offsetTop, y)),
    ];
  };
  const take = (event: PointerEvent<HTMLElement>): void => {
    if (event.button !== 0) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    setGrip([event.clientX - offset[0], event.clientY - offset[1]]);
  };
  const press = (event: KeyboardEvent<HTMLElement>): void => {
    const dx = { ArrowLeft: -STEP, ArrowRight: STEP }[event.key] ?? 0;
    const dy = { ArrowUp: -STEP, ArrowDown: STEP }[event.key] ?? 0;
    if (dx === 0 && dy === 0) return;
    event.preventDefault();
    event.stopPropagation();
    setOffset(held([offset[0] + dx, offset[1] + dy]));
  };

  return (
    <section
      ref={panel}
      className={`floating-panel handle${className ? ` ${className}` : ""}`}
      aria-label={title}
      style={{ transform: `translate(${offset[0]}px, ${offset[1]}px)` }}
    >
      <header>
        <h2
          tabIndex={0}
          title="Drag to move, press twice to put back"
          onPointerDown={take}
          onPointerMove={(event) =>
            grip && setOffset(held([event.clientX - grip[0], event.clientY - grip[1]]))
          }
          onPointerUp={() => setGrip(null)}
          onPointerCancel={() => setGrip(null)}
          onDoubleClick={() => setOffset([0, 0])}
          onKeyDown={press}
        >
          {title}
        </h2>
        {beside}
      </header>
      {children}
    </section>
  );
}
