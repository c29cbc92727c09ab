import "./generated/wasm_exec.js";

// The core, built for the browser, in a worker of its own: typing never waits.
declare const Go: new () => { importObject: WebAssembly.Imports; run(instance: WebAssembly.Instance): Promise<void> };
declare const magpieEngine: (question: string, input: string, document: string) => string;

type Message = { module: WebAssembly.Module } | { question: string; input: string; document: string };

// The engine says from within a long question how far it is.
Object.assign(self, { magpieProgress: (done: number) => self.postMessage({ progress: done }) });

let ready: Promise<void> | undefined;

async function start(module: WebAssembly.Module) {
  const go = new Go();
  const instance = await WebAssembly.instantiate(module, go.importObject);
  // It runs until something in it fails.
  void go.run(instance).then(() => self.postMessage({ gone: "it ended" }));
}

self.onmessage = async ({ data }: MessageEvent<Message>) => {
  try {
    if ("module" in data) {
      ready = start(data.module);
      await ready;
      return;
    }
    await ready;
    const output = magpieEngine(data.question, data.input, data.document);
    if (typeof output === "string") self.postMessage({ output });
  } catch (error) {
    self.postMessage({ gone: String(error) });
  }
};
