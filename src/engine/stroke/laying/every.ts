import { z } from "zod";

/** Ms between marks of a brush that pours, also while it stands; null: marks by length alone. */
export const everySchema = z.number().min(2).max(1000).nullable().default(null);
