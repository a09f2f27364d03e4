import * as z from 'zod/mini';
import { say } from '@/core/words';

/** A worker's answer to a call, whose first arguments are checked as they arrive; throws a sentence where one is not what it must be. */
export function checked<A extends unknown[], R>(schemas: readonly z.ZodMiniType[], answer: (...args: A) => R): (...args: A) => R {
  return (...args) => {
    for (const [i, schema] of schemas.entries()) {
      const { error } = z.safeParse(schema, args[i]);
      if (error) throw new Error(say`What was sent to a background task is not usable (${z.prettifyError(error)}). Nothing was changed.`);
    }
    return answer(...args);
  };
}
