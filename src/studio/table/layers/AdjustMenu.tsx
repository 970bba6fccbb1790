"use client";

import { SlidersHorizontal } from "lucide-react";
import { type Adjustment } from "../../../engine/adjust/adjustment";
import { adjustmentNames, beginAdjusting } from "../adjust/adjust-store";
import { type Session } from "../session";
import { IconMenu, Item } from "./menu-items";

/** What can be adjusted of the paint on the chosen layers. */
export function AdjustMenu({ session }: { session: Session }) {
  return (
    <IconMenu
      label="Adjust"
      title="Adjust what the layers hold"
      icon={<SlidersHorizontal size={16} />}
    >
      {(Object.keys(adjustmentNames) as Adjustment["kind"][]).map((kind) => (
        <Item key={kind} act={() => beginAdjusting(session, kind, null)}>
          {adjustmentNames[kind]}…
        </Item>
      ))}
    </IconMenu>
  );
}
