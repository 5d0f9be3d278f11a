import { client, type SpecFile, unwrap } from "../../../api/client";

/** Keeps a draft that was read as a new spec. */
export const startRead = (body: SpecFile) =>
  unwrap(client.POST("/api/specs", { body: { family: body.family ?? "other", school: "", name: body.name, body: { ...body } } }));
