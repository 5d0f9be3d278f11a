/** Answers that were given to somebody else, or in another house. */

import type { QueryClient } from "@tanstack/react-query";

/**
 * Forgets every answer whose key begins with a word that `forgets` holds for. What a screen shows just now is asked again: taken away under it, its
 * question would wait for ever, since nobody would ask it any more.
 */
export function forgetAnswers(queries: QueryClient, forgets: (word: string) => boolean): void {
  const predicate = ({ queryKey }: { queryKey: readonly unknown[] }) => forgets(String(queryKey[0]));
  queries.removeQueries({ type: "inactive", predicate });
  void queries.resetQueries({ type: "active", predicate });
}

/** All but who is signed in. */
export const allButSession = (word: string): boolean => word !== "session";
