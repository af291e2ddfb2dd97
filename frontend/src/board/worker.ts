/// <reference lib="webworker" />
/** The core's Python in the page: loads the interpreter and the core, then answers calls about one board. */
interface Interpreter {
  unpackArchive(data: ArrayBuffer, format: string): void;
  runPython(code: string): unknown;
}
interface Ask {
  id: number;
  call: string;
  args: string;
}
type Answerer = (call: string, args: string) => string;

async function begin(interpreter: string, core: string): Promise<Answerer> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${interpreter}pyodide.mjs`)) as {
    loadPyodide(options: { indexURL: string }): Promise<Interpreter>;
  };
  const [python, packed] = await Promise.all([
    loadPyodide({ indexURL: interpreter }),
    fetch(core).then((r) => r.arrayBuffer()),
  ]);
  python.unpackArchive(packed, "zip");
  return python.runPython(
    "from evenmark.core.board.session import BoardSession\nBoardSession().ask_json",
  ) as Answerer;
}

let answer: Answerer | null = null;
self.onmessage = async (e: MessageEvent<Ask | { interpreter: string; core: string }>) => {
  const asked = e.data;
  if ("interpreter" in asked) {
    try {
      answer = await begin(asked.interpreter, asked.core);
      self.postMessage({ ready: true });
    } catch (why) {
      self.postMessage({ ready: false, why: String(why) });
    }
    return;
  }
  try {
    self.postMessage({ id: asked.id, answer: answer?.(asked.call, asked.args) });
  } catch (why) {
    self.postMessage({ id: asked.id, broke: String(why).slice(-400) });
  }
};
