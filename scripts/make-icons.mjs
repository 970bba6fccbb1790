/** Draws the icons of an installed Pampas from its sign; run when the sign changes. */
import { readFile } from "node:fs/promises";
import sharp from "sharp";

const sign = (await readFile("public/favicon.svg", "utf8"))
  .trim()
  .replace(/^<svg[^>]*>|<\/svg>$/g, "");
const strokes =
  'fill="none" stroke="#8a5a00" stroke-width="2" stroke-linecap="round" stroke-linejoin="round"';

/** The sign on paper, `share` of the side large; rounded where nobody else rounds it. */
const icon = (side, share, radius) => {
  const size = side * share;
  const at = (side - size) / 2;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}"><rect width="${side}" height="${side}" rx="${radius}" fill="#f3eee4"/><g transform="translate(${at} ${at}) scale(${size / 32})" ${strokes}>${sign.trim()}</g></svg>`;
};

for (const [name, side, share, radius] of [
  ["pampas-192", 192, 0.74, 40],
  ["pampas-512", 512, 0.74, 106],
  ["pampas-maskable-512", 512, 0.56, 0],
])
  await sharp(Buffer.from(icon(side, share, radius)))
    .png()
    .toFile(`public/icons/${name}.png`);
