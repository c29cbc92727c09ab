// What pages of a launch do besides showing: keep, at the platform, that this browser asked, and
// tell it when a registration is over. A frame may keep no cookies, so the platform keeps it.
const { do: act, origin, target, key, value, to } = document.body.dataset;

function ask(subject, more, then) {
  const id = Math.random().toString(36).slice(2);
  const frame = target && target !== "_parent" ? (window.parent || window.opener).frames[target] : window.parent !== window ? window.parent : window.opener;
  const hear = (e) => {
    if (e.origin !== origin || !e.data || e.data.message_id !== id || e.data.subject !== `${subject}.response`) return;
    window.removeEventListener("message", hear);
    if (e.data.error) tell();
    else then(e.data.value);
  };
  window.addEventListener("message", hear);
  frame?.postMessage({ subject, message_id: id, key, ...more }, origin);
  setTimeout(tell, 8000);
}

function tell() {
  document.getElementById("trouble").hidden = false;
}

if (act === "keep") ask("lti.put_data", { value }, () => location.replace(to));
if (act === "show")
  ask("lti.get_data", {}, (kept) => {
    document.forms[0].elements.proof.value = kept ?? "";
    document.forms[0].submit();
  });
if (act === "close") (window.opener || window.parent).postMessage({ subject: "org.imsglobal.lti.close" }, "*");
