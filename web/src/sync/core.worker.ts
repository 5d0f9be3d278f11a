/** The core in a worker: CPython as WebAssembly, from this site's own files. It answers as the site would. */

import { expose } from "comlink";

interface Python {
  unpackArchive: (archive: ArrayBuffer, kind: string, options: { extractDir: string }) => void;
  runPython: (code: string) => unknown;
  globals: { get: (name: string) => (...given: string[]) => string };
}

const BASE = "/static/";
const CORE = "core.zip";
/** What the loader fetches by itself. */
const RUNTIME = ["pyodide/python_stdlib.zip", "pyodide/pyodide.asm.wasm", "pyodide/pyodide-lock.json"];
const CODE = `
import gc, sys
sys.path.insert(0, "/home/ulsek")
from ulsek.core.browser.requests import Requests
ask = Requests().ask
# What was loaded stays: it need not be looked through for garbage each time.
gc.collect()
gc.freeze()
def digest():
    return open("/home/ulsek/DIGEST").read()
`;

/** Whatever stands under these addresses, whole: from the network or from what the service worker keeps. */
async function whole(files: readonly string[]): Promise<Map<string, Blob>> {
  const fetched = files.map(async (file) => {
    const answer = await fetch(BASE + file);
    if (!answer.ok) throw new Error(`${file}: ${answer.status}`);
    return [BASE + file, await answer.blob()] as const;
  });
  return new Map(await Promise.all(fetched));
}

/** The loader watches none of its own fetches, and waits for ever when one fails: it is started only with all of them at hand, and answered from there. */
async function start(): Promise<Python> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${BASE}pyodide/pyodide.mjs`)) as {
    loadPyodide: (options: { indexURL: string }) => Promise<Python>;
  };
  const files = await whole([CORE, ...RUNTIME]);
  const network = self.fetch;
  self.fetch = async (asked, init) => {
    const file = files.get(new URL(String(asked), location.origin).pathname);
    return file ? new Response(file) : network(asked, init);
  };
  try {
    const python = await loadPyodide({ indexURL: `${BASE}pyodide/` });
    const core = await fetch(BASE + CORE);
    python.unpackArchive(await core.arrayBuffer(), "zip", { extractDir: "/home/ulsek" });
    python.runPython(CODE);
    return python;
  } finally {
    self.fetch = network;
  }
}

let starting: Promise<Python> | null = null;

/** The interpreter, started when it is first wanted; after a failure it is tried again. */
async function python(): Promise<Python> {
  starting ??= start();
  try {
    return await starting;
  } catch (error) {
    starting = null;
    throw error;
  }
}

const pause = new MessageChannel();
/** Lets a question in that came meanwhile. A timer would wait four milliseconds each time. */
const breath = () =>
  new Promise<void>((done) => {
    pause.port1.onmessage = () => done();
    pause.port2.postMessage(null);
  });

const NOTHING_YET = '{"ok": null}';
let newest = 0;
let tell: (turn: number, answer: string) => void = () => undefined;

const core = {
  /** The digest of the core that answers here, to be compared with the site's. */
  async digest(): Promise<string> {
    return (await python()).globals.get("digest")();
  },

  /** The answer to a question of `ulsek.core.browser.requests`, both as JSON. */
  async ask(name: string, given: string): Promise<string> {
    return (await python()).globals.get("ask")(name, given);
  },

  /** Who hears of the plain flow of a draft, before everything else of it is worked out. */
  onPlainFlow(told: (turn: number, answer: string) => void): void {
    tell = told;
  },

  /** Everything of a draft, after its plain flow was told under the number `turn`; nothing where a newer draft is asked for meanwhile. */
  async draft(turn: number, given: string): Promise<string | null> {
    newest = turn;
    const ask = (await python()).globals.get("ask");
    if (turn !== newest) return null;
    performance.clearMeasures();
    const start = performance.now();
    let answer = ask("begin_draft", given);
    if (answer.startsWith('{"refused"')) return answer;
    tell(turn, answer);
    performance.measure("plain flow", { start });
    do {
      await breath();
      if (turn !== newest) return null;
      answer = ask("go_on_with_draft", "[]");
    } while (answer === NOTHING_YET);
    performance.measure("everything", { start });
    return answer;
  },
};

export type CoreWorker = typeof core;
expose(core);
