"use client";

import { Spline, X } from "lucide-react";
import { Dropdown } from "react-bootstrap";
import { type Guide, MOST_GUIDES } from "../../../engine/guides/guide";
import { tell } from "../../notices/notices";
import { keyName } from "../keys/key-map";
import { openScene } from "../scene/scene-store";
import { type Session } from "../session";
import { useParts, useTable } from "../table-store";
import { type GuideKind, newGuide } from "./lines";

const kinds: [GuideKind, string][] = [
  ["one point", "One vanishing point"],
  ["two points", "Two vanishing points"],
  ["three points", "Three vanishing points"],
  ["straightedge", "Straightedge"],
  ["parallel", "Parallel lines"],
  ["ellipse", "Ellipse"],
];

function nameOf(guide: Guide): string {
  if (guide.kind === "vanishing points")
    return `${guide.points.length} vanishing ${guide.points.length === 1 ? "point" : "points"}`;
  return { straightedge: "Straightedge", parallel: "Parallel lines", ellipse: "Ellipse" }[
    guide.kind
  ];
}

const none: readonly Guide[] = [];

/** Guides: adding them, following them, putting them away. */
export function GuidesMenu({ session }: { session: Session }) {
  const guides = useTable((state) => state.picture?.guides ?? none);
  const { picture, follow, guidesShown, keys, set } = useParts(
    "picture",
    "follow",
    "guidesShown",
    "keys",
    "set",
  );
  const add = (kind: GuideKind): void => {
    if (!picture) return;
    if (guides.length >= MOST_GUIDES)
      return tell(`A picture has at most ${MOST_GUIDES} guides. Take one away first.`);
    const guide = newGuide(kind, picture.width, picture.height);
    // A picture has one perspective: new vanishing points take the place of the old ones.
    const others =
      guide.kind === "vanishing points"
        ? guides.filter((other) => other.kind !== "vanishing points")
        : guides;
    set({ follow: true, guidesShown: true });
    void session.setGuides([...others, guide]);
  };
  return (
    <Dropdown drop="up">
      <Dropdown.Toggle
        as="button"
        type="button"
        className="guides-button"
        data-on={(follow && guides.length > 0) || undefined}
        aria-keyshortcuts={keyName(keys.guides)}
      >
        <Spline size={18} />
        Guides
      </Dropdown.Toggle>
      <Dropdown.Menu className="crit-menu">
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={follow}
          onClick={() => session.toggleFollow()}
        >
          Strokes follow them <kbd>{keyName(keys.guides)}</kbd>
        </Dropdown.Item>
        <Dropdown.Item
          as="button"
          type="button"
          aria-pressed={guidesShown}
          onClick={() => set({ guidesShown: !guidesShown })}
        >
          Shown
        </Dropdown.Item>
        <Dropdown.Divider />
        {guides.map((guide, i) => (
          <Dropdown.Item
            key={i}
            as="button"
            type="button"
            aria-label={`Take away: ${nameOf(guide)}`}
            onClick={() => void session.setGuides(guides.filter((_, j) => j !== i))}
          >
            {nameOf(guide)} <X size={14} />
          </Dropdown.Item>
        ))}
        {guides.length > 0 && <Dropdown.Divider />}
        {kinds.map(([kind, name]) => (
          <Dropdown.Item key={kind} as="button" type="button" onClick={() => add(kind)}>
            Add: {name.toLowerCase()}
          </Dropdown.Item>
        ))}
        <Dropdown.Divider />
        <Dropdown.Item as="button" type="button" onClick={openScene}>
          Block a scene out in solids
        </Dropdown.Item>
      </Dropdown.Menu>
    </Dropdown>
  );
}
