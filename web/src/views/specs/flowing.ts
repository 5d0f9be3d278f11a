import type { Schemas } from "../../api/client";
import type { RiverStep } from "../../river/layout";

/** A worked-out step as the river takes it. */
export const flowing = (step: Schemas["StepResult"], vessels: readonly { id: string; name?: string }[]): RiverStep => ({
  id: step.id,
  bands: step.bands,
  bandsBefore: step.stood,
  continues: step.continues,
  vessel: vessels.length > 1 ? (vessels.find((vessel) => vessel.id === step.vessel)?.name ?? step.vessel) : "",
  doubt: (step.mass_g.high - step.mass_g.low) / 2,
  added: step.added.map((added) => ({ line: added.line, bands: added.bands, mass: added.mass_g.value })),
  leaving: step.leaving.map((stream) => ({ name: stream.name, mass: stream.mass_g, kept: stream.kept })),
});
