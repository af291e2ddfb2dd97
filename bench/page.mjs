// Runs Python in Pyodide: node bench/page.mjs CORE.zip SCRIPT.py prints what the script's last line is.
import { loadPyodide } from "../frontend/node_modules/pyodide/pyodide.mjs"
import { readFileSync } from "node:fs"

const [, , core, script] = process.argv
const py = await loadPyodide()
py.unpackArchive(new Uint8Array(readFileSync(core)), "zip", { extractDir: "/app" })
py.runPython("import sys; sys.path.insert(0, '/app')")
console.log(py.runPython(readFileSync(script, "utf8")))
