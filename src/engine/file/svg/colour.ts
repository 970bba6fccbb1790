/** The sixteen names of HTML 3.2, which every reader of SVG knows. */
const NAMES: Readonly<Record<string, string>> = {
  black: "#000000",
  silver: "#c0c0c0",
  gray: "#808080",
  grey: "#808080",
  white: "#ffffff",
  maroon: "#800000",
  red: "#ff0000",
  purple: "#800080",
  fuchsia: "#ff00ff",
  green: "#008000",
  lime: "#00ff00",
  olive: "#808000",
  yellow: "#ffff00",
  navy: "#000080",
  blue: "#0000ff",
  teal: "#008080",
  aqua: "#00ffff",
};

const byte = (text: string): string => {
  const value = text.endsWith("%") ? (parseFloat(text) * 255) / 100 : parseFloat(text);
  return Math.round(Math.min(255, Math.max(0, value || 0)))
    .toString(16)
    .padStart(2, "0");
};

/** A plain colour of an SVG as hex; null for none. Gradients, patterns and names that few know become black. */
export function hexOf(text: string): string | null {
  const said = text.trim().toLowerCase();
  if (said === "none" || said === "transparent" || said === "") return null;
  if (/^#[0-9a-f]{6}$/.test(said)) return said;
  if (/^#[0-9a-f]{3}$/.test(said))
    return `#${[...said.slice(1)].map((digit) => digit + digit).join("")}`;
  const [, r, g, b] = /^rgba?\(\s*([\d.]+%?)[\s,]+([\d.]+%?)[\s,]+([\d.]+%?)/.exec(said) ?? [];
  if (r && g && b) return `#${byte(r)}${byte(g)}${byte(b)}`;
  return NAMES[said] ?? "#000000";
}
