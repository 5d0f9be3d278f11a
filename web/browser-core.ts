/** Puts the core and CPython for the browser beside the built pages: the core as one archive, Pyodide's own files as they are. */

import { readdirSync, readFileSync } from "node:fs";
import { extname, join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { zipSync } from "fflate";
import type { Plugin } from "vite";

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const SOURCE = here("../src");
const PYODIDE = here("./node_modules/pyodide");
const RUNTIME = ["pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "python_stdlib.zip", "pyodide-lock.json"];
/** One moment for every file, so that the same core gives the same archive. */
const WHEN = new Date(2026, 0, 1);

function coreArchive(): Uint8Array {
  const files: Record<string, Uint8Array> = { "ulsek/__init__.py": readFileSync(join(SOURCE, "ulsek/__init__.py")) };
  const found = readdirSync(join(SOURCE, "ulsek/core"), { recursive: true, withFileTypes: true });
  for (const entry of found) {
    const path = join(entry.parentPath, entry.name);
    if (entry.isFile() && [".py", ".json", ".csv", ".mo"].includes(extname(path))) files[relative(SOURCE, path)] = readFileSync(path);
  }
  const sorted = Object.fromEntries(Object.entries(files).sort(([one], [other]) => (one < other ? -1 : 1)));
  return zipSync(sorted, { level: 9, mtime: WHEN });
}

export function browserCore(): Plugin {
  return {
    name: "browser-core",
    apply: "build",
    generateBundle() {
      this.emitFile({ type: "asset", fileName: "core.zip", source: coreArchive() });
      for (const name of RUNTIME) {
        this.emitFile({ type: "asset", fileName: `pyodide/${name}`, source: readFileSync(join(PYODIDE, name)) });
      }
    },
  };
}
