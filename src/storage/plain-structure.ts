import { type Structure } from "../engine/picture/picture";
import { type StructureRecord } from "./records";

/** A picture's structure as a record holds it. */
export const plainStructure = ({ scene, strewn, ...structure }: Structure): StructureRecord => ({
  ...structure,
  layers: [...structure.layers],
  guides: [...structure.guides],
  kept: [...structure.kept],
  stencils: [...structure.stencils],
  wells: [...structure.wells],
  tubes: structure.tubes && [...structure.tubes],
  ...(scene ? { scene: { ...scene, solids: [...scene.solids] } } : {}),
  ...(strewn ? { strewn: strewn.map((own) => ({ ...own, pictures: [...own.pictures] })) } : {}),
});
