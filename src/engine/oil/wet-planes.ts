import { type PlaneName } from "../picture/picture";

/**
 * What a layer of oil has besides its colour, which is always what is seen of it. While it is wet: the colour
 * that is dry below, a skin and a bulk of paint (each in two tiles: three bands and its thickness, then four
 * bands; see `kernels/oil/wet.ts`). A tile without a skin is dry.
 */
export const UNDER: PlaneName = "wet under";
export const SKIN: PlaneName = "wet skin";
export const SKIN_MORE: PlaneName = "wet skin bands";
export const BULK: PlaneName = "wet bulk";
export const BULK_MORE: PlaneName = "wet bulk bands";

/** The thinner in wet paint, in its first number. */
export const THINNER: PlaneName = "wet thinner";

/** What is there only as long as paint is wet. Whoever changes colour otherwise has it dried first. */
export const WET_PLANES: readonly PlaneName[] = [UNDER, SKIN, SKIN_MORE, BULK, BULK_MORE, THINNER];

/** How high paint stands, wet or dry: what the light on it is worked out from (`kernels/oil/relief.ts`). */
export const RELIEF: PlaneName = "relief";
