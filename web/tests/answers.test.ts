import { describe, expect, it } from "vitest";
import { expectOk, Problem, unwrap } from "../src/api/client";

const gone = () => Promise.reject(new TypeError("Failed to fetch"));
const refused = async () => ({
  error: { detail: "Two specs use it.", where: "materials/birch", code: "in_use" },
  response: new Response(null, { status: 409 }),
});
const empty = async () => ({ response: new Response(null, { status: 204 }) });
const problem = (call: Promise<unknown>) =>
  call.then(
    () => null,
    (error: unknown) => (error instanceof Problem ? error : "something else"),
  );

describe.each([
  ["with a body", unwrap],
  ["without one", expectOk],
])("what is asked for an answer %s", (_, ask) => {
  it("says that Ulsek cannot be reached, and never what the browser calls it", async () => {
    const away = await problem(ask(gone()));
    expect(away).toMatchObject({ isAway: true, code: "away" });
    expect(String(away)).not.toContain("fetch");
  });

  it("is no success when it is refused: the words, the place and the code come through", async () => {
    expect(await problem(ask(refused()))).toMatchObject({
      status: 409,
      detail: "Two specs use it.",
      where: "materials/birch",
      code: "in_use",
    });
  });
});

describe("an empty answer", () => {
  it("is enough where none is expected, and a fault where one is", async () => {
    expect(await problem(expectOk(empty()))).toBeNull();
    expect(await problem(unwrap(empty()))).toBeInstanceOf(Problem);
  });
});
