import { create } from "zustand";
import { fromPixels, type Unit } from "../../files/lengths";
import { tell } from "../../notices/notices";
import { type Session } from "../session";
import { useTable } from "../table-store";
import { type Frame, frameOf, wholeFrame } from "./frame";

export type SheetWay = "cut" | "resize" | "on paper";

type SheetState = {
  /** What is done to the sheet; null: its panel is shut. */
  way: SheetWay | null;
  /** The new sheet on the old one. */
  frame: Frame;
  /** Width to height that the frame keeps; null: none. */
  proportion: number | null;
  /** The new size, in a unit, and px an inch. */
  width: number;
  unit: Unit;
  ppi: number;
  filter: "lanczos" | "bicubic";
};

const AT_FIRST = { left: 0, top: 0, width: 1, height: 1, angle: 0 };

export const useSheet = create<SheetState>()(() => ({
  way: null,
  frame: AT_FIRST,
  proportion: null,
  width: 1,
  unit: "px",
  ppi: 300,
  filter: "lanczos",
}));

/** Opens the panel; it begins with the sheet as it is. */
export function openSheet(way: SheetWay): void {
  const { picture } = useTable.getState();
  if (!picture) return;
  const { unit } = useSheet.getState();
  useSheet.setState({
    way,
    frame: wholeFrame(picture),
    proportion: null,
    ppi: picture.ppi,
    width: fromPixels(picture.width, unit, picture.ppi),
  });
  useTable.setState({ tool: "brush" });
}

export const closeSheet = (): void => useSheet.setState({ way: null });

/** Puts the frame around all that is painted. */
export async function frameAroundPaint(session: Session): Promise<void> {
  const box = await session.link.api.paintBox();
  if (!box) return tell("Nothing is painted: there is nothing to trim to.");
  useSheet.setState({ frame: frameOf(box), proportion: null });
}

/** Puts the frame around what is selected. */
export async function frameAroundSelection(session: Session): Promise<void> {
  const box = await session.link.api.selectionBox();
  if (!box) return tell("Nothing is selected: there is nothing to crop to.");
  useSheet.setState({ frame: frameOf(box), proportion: null });
}

/** Does what is shown, and shuts the panel where it was done. */
export async function cutSheet(session: Session): Promise<void> {
  const { frame } = useSheet.getState();
  if (await session.apply({ do: "sheet.crop", ...frame })) closeSheet();
}
