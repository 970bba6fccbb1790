/**
 * Paint from the tube, by the trade's names of pigments. `colour` is what it looks like laid thick, `strength`
 * how far a part of it goes in a mixture beside a part of titanium white.
 */
export type Tube = { name: string; colour: string; strength: number };

/** The tubes of the paint box, light to dark round the hues, whites and blacks first. */
export const tubes: readonly Tube[] = [
  { name: "Titanium white", colour: "#f7f6f2", strength: 1 },
  { name: "Zinc white", colour: "#f2f3f3", strength: 0.5 },
  { name: "Ivory black", colour: "#1d1b1a", strength: 0.9 },
  { name: "Lamp black", colour: "#17181b", strength: 1.3 },
  { name: "Lemon yellow", colour: "#f4e34a", strength: 0.8 },
  { name: "Cadmium yellow", colour: "#f7b518", strength: 1 },
  { name: "Naples yellow", colour: "#efd596", strength: 0.8 },
  { name: "Yellow ochre", colour: "#c2882e", strength: 0.8 },
  { name: "Raw sienna", colour: "#a7682b", strength: 0.6 },
  { name: "Cadmium orange", colour: "#ee6f1c", strength: 1 },
  { name: "Vermilion", colour: "#dc3b22", strength: 1 },
  { name: "Cadmium red", colour: "#c41f21", strength: 1 },
  { name: "Venetian red", colour: "#9b3a26", strength: 1.3 },
  { name: "Burnt sienna", colour: "#6f3420", strength: 0.7 },
  { name: "Madder lake", colour: "#8b1a2f", strength: 0.6 },
  { name: "Alizarin crimson", colour: "#6a1226", strength: 0.9 },
  { name: "Quinacridone magenta", colour: "#9a1656", strength: 1.2 },
  { name: "Cobalt violet", colour: "#8d4a94", strength: 0.4 },
  { name: "Dioxazine violet", colour: "#33164f", strength: 1.8 },
  { name: "Ultramarine", colour: "#221f86", strength: 0.9 },
  { name: "Cobalt blue", colour: "#1d4aa5", strength: 0.7 },
  { name: "Prussian blue", colour: "#14264a", strength: 1.7 },
  { name: "Indigo", colour: "#222b41", strength: 1 },
  { name: "Cerulean", colour: "#1f7fb0", strength: 0.6 },
  { name: "Phthalo blue", colour: "#0b2f7a", strength: 2 },
  { name: "Phthalo green", colour: "#06443c", strength: 1.9 },
  { name: "Viridian", colour: "#0d6a55", strength: 0.6 },
  { name: "Chromium oxide green", colour: "#4c7340", strength: 0.9 },
  { name: "Green earth", colour: "#6f7d5c", strength: 0.3 },
  { name: "Raw umber", colour: "#5a4630", strength: 0.6 },
  { name: "Burnt umber", colour: "#44291d", strength: 0.7 },
];
