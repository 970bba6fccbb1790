/** What the engine accepts from outside. Sizes are checked before anything is allocated. */
export const limits = {
  /** A file as it lies on disk. */
  fileBytes: 1024 * 2 ** 20,
  /** All that an archive unpacks to. */
  archiveBytes: 4096 * 2 ** 20,
  /** One layer's picture in an archive, packed. */
  layerBytes: 512 * 2 ** 20,
  archiveEntries: 2000,
  /** An archive whose contents are this many times its own size is not one of pictures. */
  archiveRatio: 1100,
  xmlBytes: 4 * 2 ** 20,
  svgBytes: 64 * 2 ** 20,
  logLines: 1_000_000,
} as const;
