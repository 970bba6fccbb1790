import { type Layer } from "../../engine/picture/picture";

/** A sketch to draw over: faint, in a colour that no line has, safe from the pen. */
export const AID = { opacity: 0.55, blend: "multiply", tint: "#3f86c6", locked: true } as const;
export const NO_AID = { opacity: 1, blend: "normal", tint: null, locked: false } as const;

export const isAid = ({ tint, locked }: Layer): boolean => tint !== null && locked;
