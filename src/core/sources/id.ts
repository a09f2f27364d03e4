import * as z from 'zod/mini';

/** What things of a project are named by. */
export const idSchema = z.string().check(z.minLength(1), z.maxLength(80));
