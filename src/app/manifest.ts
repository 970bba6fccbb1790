import { type MetadataRoute } from "next";
import { SHARE, SHARED_FIELD } from "../studio/files/share-address";

/** Files that the system may open with Pampas, by kind and by how their names end. */
const opened = {
  "image/png": [".png"],
  "image/jpeg": [".jpg", ".jpeg"],
  "image/webp": [".webp"],
  "image/avif": [".avif"],
  "image/tiff": [".tif", ".tiff"],
  "image/openraster": [".ora"],
  "image/svg+xml": [".svg"],
};

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
    file_handlers: [{ action: "/", accept: opened }],
    share_target: {
      action: SHARE,
      method: "POST",
      enctype: "multipart/form-data",
      params: { files: [{ name: SHARED_FIELD, accept: Object.keys(opened) }] },
    },
    shortcuts: [{ name: "New picture", url: "/?new" }],
  };
}
