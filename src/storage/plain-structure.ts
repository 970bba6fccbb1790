import { type Structure } from "../engine/picture/picture";
import { type StructureRecord } from "./records";

/** A picture's structure as a record holds it. */
export const plainStructure = (structure: Structure): StructureRecord => ({
  ...structure,
  layers: [...structure.layers],
  guides: [...structure.guides],
  kept: [...structure.kept],
  stencils: [...structure.stencils],
  wells: [...structure.wells],
  tubes: structure.tubes && [...structure.tubes],
});
