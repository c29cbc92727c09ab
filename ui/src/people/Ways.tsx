import type { ReactNode } from "react";
import { useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { address } from "../api/address";
import { api, ask } from "../api/client";
import { Said } from "../kit/Said";

/** How one can sign in, and why the last try of this browser failed, which the server tells once. */
export const useWays = () =>
  useQuery({ queryKey: [t`sign-in ways`], queryFn: () => ask(api.GET("/api/session/ways")), staleTime: Infinity });

type Props = {
  verb?: string;
  ticket?: string;
  to?: string;
  /** What else there is, before the fields for a password. */
  children?: ReactNode;
};

/** A button for each provider that says who somebody is. It leaves the page, and comes back to where it was. */
export function Ways({ verb = t`Sign in`, ticket, to, children }: Props) {
  const { data: ways } = useWays();
  if (!ways) return null;
  const query = new URLSearchParams({ ...(ticket && { ticket }), ...(to && { to }) });
  return (
    <>
      {ways.problem && (
        <div className="mb-4">
          <Said problem={ways.problem} />
        </div>
      )}
      {ways.providers.map((p) => (
        <a
          key={p.id}
          href={address(`/api/session/with/${p.id}?${query}`)}
          className="mb-2 flex h-10 w-full items-center justify-center rounded-(--radius) border border-edge bg-paper font-medium hover:bg-shade"
        >
          {t`${verb} with ${p.name}`}
        </a>
      ))}
      {children}
      {ways.passwords && (ways.providers.length > 0 || children) && (
        <p className="my-3 flex items-center gap-3 text-slate before:h-px before:flex-1 before:bg-line after:h-px after:flex-1 after:bg-line">
          {t`or`}
        </p>
      )}
    </>
  );
}
