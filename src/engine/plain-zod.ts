import { z } from "zod";

/**
 * Schemas are run as they are and never compiled: compiling needs `eval`, which the
 * content security policy forbids. Import this before anything that parses.
 */
z.config({ jitless: true });
