/**
 * What a tip's picture means. Coverage: dark paints, light and clear do not. Two tones: dark
 * takes the first colour, light the second, greys mix; clear paints nothing. Colours: as they are.
 */
export const tipTones = ["coverage", "two tones", "colours"] as const;
export type TipTones = (typeof tipTones)[number];
