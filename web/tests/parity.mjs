// Runs the parity corpus in CPython 3.14 as the browser has it (Pyodide), here under Node, and prints every number of it in TypeScript as well:
// `npm run parity`. Prints one closing line.
import { fileURLToPath } from "node:url";
import { loadPyodide } from "pyodide";
import { runnerImport } from "vite";

const root = fileURLToPath(new URL("../..", import.meta.url));
const python = await loadPyodide();
for (const [inside, outside] of [
  ["/home/ulsek/src", `${root}src`],
  ["/home/ulsek/tests/parity", `${root}tests/parity`],
  ["/home/ulsek/demo", `${root}demo`],
]) {
  python.FS.mkdirTree(inside);
  python.mountNodeFS(inside, outside);
}
const [count, wrong, version, printed] = python
  .runPython(`
import sys
sys.dont_write_bytecode = True
sys.path[:0] = ["/home/ulsek/src", "/home/ulsek"]
from tests.parity.cases import differences, printed
count, wrong = differences()
[count, wrong[:20], sys.version.split()[0], printed()]
`)
  .toJs();
const { module: numbers } = await runnerImport(`${root}web/src/parts/numbers.ts`, { configFile: false, logLevel: "error" });
for (const [key, value, text] of printed) {
  const here = key ? numbers.withUnit(key, value) : numbers.figure(value);
  if (here !== text) wrong.push(`${key || "a number"} ${value}: “${text}” in the core, “${here}” in TypeScript`);
}
for (const line of wrong.slice(0, 20)) process.stderr.write(`${line}\n`);
process.stdout.write(
  `Python ${version}: ${count - Math.min(count, wrong.length)} passed, ${wrong.length} failed; ${printed.length} numbers printed twice\n`,
);
process.exit(wrong.length || count < 500 || printed.length < 5000 ? 1 : 0);
