/** What the site refused, at its place in a form. */

import { Problem } from "../api/client";

/** The words of a refusal by the part of the form that it is about; empty for any other error. */
export const faultsOf = (error: unknown): Record<string, string> =>
  error instanceof Problem && error.where ? { [error.where]: error.detail } : {};

/** An error that no part of a form shows, because it has none of that name. */
export const restOf = (error: unknown, parts: readonly string[]): unknown =>
  error instanceof Problem && parts.includes(error.where) ? null : error;
