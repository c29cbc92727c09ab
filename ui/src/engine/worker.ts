import "./generated/wasm_exec.js";
import engineURL from "./generated/engine.wasm?url";

// The core, built for the browser, in a worker of its own: typing never waits.
declare const Go: new () => { importObject: WebAssembly.Imports; run(instance: WebAssembly.Instance): Promise<void> };
declare const magpieEngine: (question: string, input: string, document: string) => string;

// The engine says from within a long question how far it is.
let asked = 0;
Object.assign(self, { magpieProgress: (done: number) => self.postMessage({ id: asked, progress: done }) });

const ready = (async () => {
  const go = new Go();
  const { instance } = await WebAssembly.instantiateStreaming(fetch(engineURL), go.importObject);
  void go.run(instance);
})();

self.onmessage = async (event: MessageEvent<{ id: number; question: string; input: string; document: string }>) => {
  const { id, question, input, document } = event.data;
  try {
    await ready;
    asked = id;
    self.postMessage({ id, output: magpieEngine(question, input, document) });
  } catch (error) {
    self.postMessage({
      id,
      output: JSON.stringify({
        error: { code: "no-engine", message: `The engine could not be loaded: ${String(error)}` },
      }),
    });
  }
};
