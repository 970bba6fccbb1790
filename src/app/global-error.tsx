"use client";

import "./pampas.scss";
import ScreenFailed from "./error";

/** As an error's screen, where not even the layout could be shown. */
export default function PageFailed({ error }: { error: Error }) {
  return (
    <html lang="en" data-room="studio">
      <body>
        <ScreenFailed error={error} />
      </body>
    </html>
  );
}
