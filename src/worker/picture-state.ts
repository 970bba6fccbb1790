import { type Work } from "../engine/command/work";
import { brushesOnlyIn } from "../engine/media";
import { standsUp } from "../engine/oil/drying";
import { isLayerWet } from "../engine/time/wet-state";
import { FLAT } from "../engine/water/wash-state";
import { SLAB } from "../engine/slab/slab";
import { otherEngine } from "../engine/revision";
import { type PictureState } from "./protocol";

const nameOf = ({ id }: { id: string }): string => id;

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
    ppi: picture.ppi,
    layers: structure.layers,
    wet: structure.layers.filter(({ id: layer }) => isLayerWet(picture, layer)).map(nameOf),
    raised: structure.layers.filter(({ id: layer }) => standsUp(picture, layer)).map(nameOf),
    slabIsBare: !standsUp(picture, SLAB),
    ground: structure.ground,
    paper: structure.paper,
    kit: brushesOnlyIn(picture).map(({ id: brush }) => brush),
    guides: structure.guides,
    sun: structure.sun,
    scene: structure.scene ?? null,
    strewn: structure.strewn ?? [],
    studies: structure.studies,
    panels: structure.panels ?? null,
    selection: structure.selection,
    kept: structure.kept,
    stencils: structure.stencils,
    wells: structure.wells,
    tubes: structure.tubes,
    tilt: structure.tilt ?? FLAT,
    otherEngine: otherEngine(header.engine),
    place: work.place,
    undo: history.undoLabel,
    redo: history.redoLabel,
    readOnly,
  };
}
