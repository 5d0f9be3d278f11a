import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { fireEvent, render, screen, waitFor } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, expect, it, vi } from "vitest";
import { client, type Schemas } from "../src/api/client";
import { StartRun } from "../src/views/make/start/StartRun";

afterEach(() => void vi.restoreAllMocks());

const SPEC = { id: "s1", name: "Quince syrup" } as Schemas["SpecRow"];

/** The sheet over a site whose card names this driver, and what the site was sent. */
async function opened(driver: string) {
  vi.spyOn(client, "GET").mockResolvedValue({ data: { choices: [], driver }, response: new Response() } as never);
  const sent = vi.spyOn(client, "POST").mockResolvedValue({ data: { id: "r1" }, response: new Response() } as never);
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <StartRun spec={SPEC} onClose={() => undefined} />
      </MemoryRouter>
    </QueryClientProvider>,
  );
  await screen.findByRole("dialog", { name: "Start quince syrup" });
  const body = () => (sent.mock.calls[0]?.[1] as unknown as { body: Record<string, unknown> } | undefined)?.body;
  return { body, start: () => fireEvent.click(screen.getByRole("button", { name: "Start" })) };
}

it("a batch starts as the spec says unless another size is chosen, and is then sent no size", async () => {
  const { body, start } = await opened("Quince juice");
  expect(screen.getByRole("radio", { name: "as the spec says" })).toHaveProperty("checked", true);
  expect(screen.queryByRole("textbox")).toBeNull();
  start();
  await waitFor(() => expect(body()).toMatchObject({ spec: "s1", rehearsal: false }));
  for (const size of ["mass_g", "volume_ml", "factor"]) expect(body()).not.toHaveProperty(size);
});

it("a weight is asked for by the name of what is weighed, and what is no number is told at its field", async () => {
  const { body, start } = await opened("Quince juice");
  fireEvent.click(await screen.findByRole("radio", { name: "from what I weighed" }));
  const field = screen.getByLabelText(/What the scale shows of quince juice/);
  fireEvent.change(field, { target: { value: "much" } });
  start();
  expect(await screen.findByText(/“much” is no number/)).toBeDefined();
  expect(body()).toBeUndefined();
  fireEvent.change(field, { target: { value: "1340" } });
  start();
  await waitFor(() => expect(body()).toMatchObject({ mass_g: 1340 }));
});

it("no weight is offered where no line sets the batch", async () => {
  await opened("");
  expect(screen.getAllByRole("radio")).toHaveLength(3);
  expect(screen.queryByRole("radio", { name: "from what I weighed" })).toBeNull();
});
