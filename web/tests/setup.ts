import "@testing-library/jest-dom/vitest";
import "fake-indexeddb/auto";
import { cleanup } from "@testing-library/react";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, vi } from "vitest";

// Files share a thread, because an environment for each took most of the time; what one of them leaves behind, the next must not find.
vi.resetModules();
globalThis.indexedDB = new IDBFactory();
if (typeof document !== "undefined") localStorage.clear();

afterEach(() => {
  if (typeof document !== "undefined") cleanup();
});
