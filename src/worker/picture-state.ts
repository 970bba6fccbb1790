import { type Work } from "../engine/command/work";
import { type PictureState } from "./protocol";

/** What a table's page is told of the picture on it. */
export function pictureState({
  id,
  title,
  work,
  readOnly,
}: {
  id: string;
  title: string;
  work: Work;
  /** Another tab is working on it. */
  readOnly: boolean;
}): PictureState {
  const { picture, history } = work;
  const { width, height, structure, header } = picture;
  return {
    id,
    title,
    width,
    height,
    ppi: header.ppi,
    layers: structure.layers,
    ground: structure.ground,
    paper: structure.paper,
    kit: Object.keys(structure.brushes),
    guides: structure.guides,
    sun: structure.sun,
    studies: structure.studies,
    selection: structure.selection,
    kept: structure.kept,
    stencils: structure.stencils,
    wells: structure.wells,
    place: work.place,
    undo: history.undoLabel,
    redo: history.redoLabel,
    readOnly,
  };
}
