import { type MetadataRoute } from "next";

/** How Pampas is installed: its name, its icons, and what stands in its own menu. */
export default function manifest(): MetadataRoute.Manifest {
  return {
    name: "Pampas",
    short_name: "Pampas",
    description:
      "Sketch, ink, colour and paint finished illustrations with simulated natural media",
    id: "/",
    start_url: "/",
    display: "standalone",
    background_color: "#bdbdbd",
    theme_color: "#bdbdbd",
    categories: ["graphics", "productivity"],
    icons: [
      { src: "/favicon.svg", sizes: "any", type: "image/svg+xml" },
      { src: "/icons/pampas-192.png", sizes: "192x192", type: "image/png" },
      { src: "/icons/pampas-512.png", sizes: "512x512", type: "image/png" },
      {
        ...{ src: "/icons/pampas-maskable-512.png", sizes: "512x512", type: "image/png" },
        purpose: "maskable",
      },
    ],
    shortcuts: [{ name: "New picture", url: "/?new" }],
  };
}
