import { useEffect, useRef, useState } from "react";
import { createRoot } from "react-dom/client";
import { Popper } from "radix-ui/internal";

const rests = 450; // ms at rest on an element before it says what it does
const soon = 300; // ms after one was shown in which the next needs no rest

/** Draws what the element says that is pointed at, or that came into focus by key; Escape puts it away. */
function Tips() {
  const [of, setOf] = useState<HTMLElement | null>(null);
  const anchor = useRef<HTMLElement | null>(null);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let hidden = 0;
    const show = (e: HTMLElement | null) => {
      clearTimeout(timer);
      if (!e && anchor.current) hidden = performance.now();
      anchor.current = e;
      setOf(e);
    };
    const bearer = (target: EventTarget | null) =>
      target instanceof Element ? target.closest<HTMLElement>("[data-tip]") : null;
    const over = (e: PointerEvent) => {
      const found = e.pointerType === "touch" ? null : bearer(e.target);
      if (found === anchor.current) return;
      if (anchor.current) show(null);
      clearTimeout(timer);
      if (!found) return;
      if (performance.now() - hidden < soon) show(found);
      else timer = setTimeout(() => show(found), rests);
    };
    const focused = (e: FocusEvent) => {
      const found = bearer(e.target);
      show(found && found === e.target && found.matches(":focus-visible") ? found : null);
    };
    const away = () => show(null);
    const keys = (e: KeyboardEvent) => e.key === "Escape" && show(null);
    const gone = new MutationObserver(() => anchor.current && !anchor.current.isConnected && show(null));
    gone.observe(document.body, { childList: true, subtree: true });
    const ended = new AbortController();
    const { signal } = ended;
    document.addEventListener("pointerover", over, { signal });
    document.addEventListener("pointerdown", away, { signal, capture: true });
    document.addEventListener("focusin", focused, { signal });
    document.addEventListener("focusout", away, { signal });
    document.addEventListener("scroll", away, { signal, capture: true });
    document.addEventListener("keydown", keys, { signal, capture: true });
    window.addEventListener("resize", away, { signal }); // what it belongs to stands elsewhere then
    return () => {
      clearTimeout(timer);
      gone.disconnect();
      ended.abort();
    };
  }, []);
  if (!of) return null;
  return (
    <Popper.Root>
      <Popper.Anchor virtualRef={anchor as { current: HTMLElement }} />
      <Popper.Content
        key={of.dataset.tip}
        side="bottom"
        sideOffset={6}
        collisionPadding={8}
        // Screen readers have it from the element itself.
        aria-hidden
        className="pointer-events-none z-[5000] max-w-80 rounded-(--radius) bg-ink px-2 py-1 text-[13px] leading-snug text-paper"
      >
        {of.dataset.tip}
      </Popper.Content>
    </Popper.Root>
  );
}

/** Draws them beside the page, so that none of it is drawn again for them. */
export function mountTips() {
  createRoot(document.body.appendChild(document.createElement("div"))).render(<Tips />);
}
