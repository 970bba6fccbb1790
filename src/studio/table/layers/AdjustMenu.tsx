"use client";

import { SlidersHorizontal } from "lucide-react";
import { Dropdown } from "react-bootstrap";
import { type Adjustment } from "../../../engine/adjust/adjustment";
import { adjustmentNames, beginAdjusting } from "../adjust/adjust-store";
import { type Session } from "../session";
import { Item } from "./menu-items";

/** What can be adjusted of the paint on the chosen layers. */
export function AdjustMenu({ session }: { session: Session }) {
  return (
    <Dropdown>
      <Dropdown.Toggle
        as="button"
        type="button"
        className="icon-button no-caret"
        aria-label="Adjust"
        title="Adjust what the layers hold"
      >
        <SlidersHorizontal size={16} />
      </Dropdown.Toggle>
      <Dropdown.Menu className="crit-menu layer-menu">
        {(Object.keys(adjustmentNames) as Adjustment["kind"][]).map((kind) => (
          <Item key={kind} act={() => beginAdjusting(session, kind, null)}>
            {adjustmentNames[kind]}…
          </Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  );
}
