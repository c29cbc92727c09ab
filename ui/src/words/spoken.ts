import { i18n } from "@lingui/core";
import { compileMessage } from "@lingui/message-utils/compileMessage";

type Compiled = ReturnType<typeof compileMessage>;
const compiled = new Map<string, Compiled>();

// A sentence is read as a message once, however often it is drawn.
i18n.setMessagesCompiler((message) => {
  let known = compiled.get(message);
  if (known === undefined) compiled.set(message, (known = compileMessage(message)));
  return known;
});
i18n.loadAndActivate({ locale: "en", messages: {} });

/**
 * What t and Trans of every module speak with (lingui.config.mjs): it is ready before any of them
 * is read. English stands where it is said, so that no catalogue is loaded for it.
 */
export { i18n };
