/** Puts the core and CPython for the browser beside the built pages: the core as one archive with its digest, Pyodide's own files as they are. */

import { createHash } from "node:crypto";
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

type Files = Record<string, Uint8Array>;

/** The files of the core by their paths below it, in the order of the paths. */
function coreFiles(): Files {
  const folder = join(SOURCE, "ulsek/core");
  const found = readdirSync(folder, { recursive: true, withFileTypes: true })
    .map((entry) => ({ entry, path: join(entry.parentPath, entry.name) }))
    .filter(({ entry }) => entry.isFile() && [".py", ".json", ".csv", ".mo"].includes(extname(entry.name)))
    .map(({ path }) => [relative(folder, path), readFileSync(path)] as const);
  return Object.fromEntries(found.sort(([one], [other]) => (one < other ? -1 : 1)));
}

/** The digest that the site has of its own core: `ulsek.computing.core_digest`. */
function digest(files: Files): string {
  const hash = createHash("sha256");
  for (const [path, content] of Object.entries(files)) hash.update(`${path}\0`).update(content).update("\0");
  return hash.digest("hex").slice(0, 32);
}

function coreArchive(): Uint8Array {
  const files = coreFiles();
  const packed = Object.fromEntries(Object.entries(files).map(([path, content]) => [`ulsek/core/${path}`, content]));
  packed["ulsek/__init__.py"] = readFileSync(join(SOURCE, "ulsek/__init__.py"));
  packed.DIGEST = new TextEncoder().encode(digest(files));
  return zipSync(packed, { level: 9, mtime: WHEN });
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
