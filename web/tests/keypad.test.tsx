import { fireEvent, render, screen } from "@testing-library/react";
import { expect, it, vi } from "vitest";
import { Keypad, type Live } from "../src/views/make/sheets/Keypad";

/** The pad of a weight, with what the scale shows, and the names of its buttons in their order. */
async function opened(live: Live | null) {
  const done = vi.fn();
  const pad = (shown: Live | null) => (
    <Keypad
      open
      title="Quince juice"
      label="Weight"
      unit="g"
      keepAs="k"
      live={shown}
      awaited="bench scale"
      onClose={() => undefined}
      onDone={done}
    />
  );
  const { rerender } = render(pad(live));
  await screen.findByRole("dialog");
  return { done, show: (shown: Live | null) => rerender(pad(shown)) };
}

const buttons = () => screen.getAllByRole("button").map((button) => button.textContent);

it("nothing moves under a finger when the scale begins to show", async () => {
  const { done, show } = await opened(null);
  const before = buttons();
  const place = before.findIndex((name) => name?.startsWith("Waiting for the bench scale"));
  expect(screen.getByRole("button", { name: /^Waiting/ })).toHaveProperty("disabled", true);
  show({ name: "bench scale", value: 733, steady: true });
  expect(buttons().length).toBe(before.length);
  expect(buttons().filter((_, at) => at !== place)).toEqual(before.filter((_, at) => at !== place));
  fireEvent.click(screen.getByRole("button", { name: /^Take 733/ }));
  expect(done).toHaveBeenCalledWith(733);
});
