/** What the site refused, at its place in a form. */

import { Problem } from "../api/client";

/** Refusals of a start that the card of its spec answers: questions to answer, a change to read, a withdrawal. */
const TO_THE_CARD = ["questions_open", "unread", "withdrawn"];

/** Whether an error is answered by the card of its spec. */
export const isForTheCard = (error: unknown): boolean => error instanceof Problem && TO_THE_CARD.includes(error.code);

/** The words of a refusal by the part of the form that it is about; empty for any other error. */
export const faultsOf = (error: unknown): Record<string, string> =>
  error instanceof Problem && error.where ? { [error.where]: error.detail } : {};

/** An error that no part of a form shows, because it has none of that name. */
export const restOf = (error: unknown, parts: readonly string[]): unknown =>
  error instanceof Problem && parts.includes(error.where) ? null : error;
