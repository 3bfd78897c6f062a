/**
 * The engine of the phone as it stands once it has started, written out: a start from it skips the start.
 *
 *     node snapshot.mjs PYODIDE CORE OUT
 */
import { readFileSync, writeFileSync } from "node:fs";
import { pathToFileURL } from "node:url";
import { gzipSync } from "node:zlib";

const [pyodide, core, out] = process.argv.slice(2);
const { loadPyodide } = await import(pathToFileURL(`${pyodide}/pyodide.mjs`));
const python = await loadPyodide({ indexURL: `${pyodide}/`, _makeSnapshot: true });
python.unpackArchive(new Uint8Array(readFileSync(core)), "zip", { extractDir: "/core" });
python.runPython("import sys; sys.path.insert(0, '/core')");
python.runPython("from doors import spoken");
writeFileSync(out, gzipSync(python.makeMemorySnapshot(), { level: 9 }));
