export { runTape, pullJobs, readModifyWrite, copyBytes, fillBytes } from "./tape";
export { isUniform, fillTile, packStraight, unpackStraight16, unpackStraight8 } from "./pack";
export { squeezeFilter, unsqueezeFilter } from "./squeeze";
export { countBits, floodBits, holdBack, joinBits, nextWord, regionArea, spreadLabels, takeRegion } from "./region";
