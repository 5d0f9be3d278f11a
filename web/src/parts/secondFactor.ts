/** Whether the site asks for an authenticator's digits beside the password. */

import { Problem } from "../api/client";

export const asksForDigits = (error: unknown): boolean =>
  error instanceof Problem && (error.code === "code_wanted" || error.code === "code_wrong");

/** What is wrong, where it is more than that the digits are asked for. */
export const beyondAsking = (error: unknown): unknown => (error instanceof Problem && error.code === "code_wanted" ? null : error);
