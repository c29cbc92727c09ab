import { useEffect, useRef } from "react";
import { t } from "@lingui/core/macro";
import { Button } from "./Button";

type Props = { has: boolean; loading: boolean; onMore: () => unknown };

/** Loads the next page of a list when its end comes into view, or is asked for. */
export function More({ has, loading, onMore }: Props) {
  const end = useRef<HTMLDivElement>(null);
  const more = useRef(onMore);
  useEffect(() => void (more.current = onMore));
  useEffect(() => {
    if (!end.current || !has || loading) return;
    const seen = new IntersectionObserver(([e]) => e?.isIntersecting && more.current(), { rootMargin: "300px" });
    seen.observe(end.current);
    return () => seen.disconnect();
  }, [has, loading]);
  if (!has) return null;
  return (
    <div ref={end} className="mt-4 text-center">
      <Button disabled={loading} onClick={() => onMore()}>
        {loading ? t`Loading…` : t`Show more`}
      </Button>
    </div>
  );
}
