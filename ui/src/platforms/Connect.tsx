import { useState } from "react";
import { useMutation, useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Connections } from "../api/types";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/LabelledField";
import { LinkField } from "../kit/LinkField";
import { Said } from "../kit/Said";

type Props = { now: Connections; onClose: () => void; onConnected: (now: Connections) => void };

/** An address by which a platform registers itself, or both sides by hand. */
export function Connect({ now, onClose, onConnected }: Props) {
  const [known] = useState(now.platforms.length);
  const address = useQuery({
    queryKey: ["registration"],
    queryFn: () => ask(api.POST("/api/platforms/registration")),
    staleTime: Infinity,
    gcTime: 0,
  });
  const arrived = now.platforms.length > known;
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={t`Connect a learning platform`}
      about={t`Its administrator pastes this address where tools are registered. It works once, for a day.`}
    >
      {address.error && <Said problem={problemOf(address.error)} />}
      {address.data && <LinkField path={address.data.url} label={t`Address for registering`} openable={false} />}
      {arrived && (
        <p role="status" className="mt-3 flex items-center gap-3 rounded-(--radius) bg-feather-soft px-3 py-2">
          <span className="flex-1">{t`${now.platforms.at(-1)!.name} has registered itself.`}</span>
          <Button kind="main" onClick={onClose}>
            {t`Look and confirm`}
          </Button>
        </p>
      )}
      <details className="mt-5">
        <summary className="cursor-pointer font-medium">{t`By hand, where the platform can’t register itself`}</summary>
        <ByHand now={now} onConnected={onConnected} onClose={onClose} />
      </details>
    </Dialog>
  );
}

const empty = { name: "", issuer: "", clientId: "", deployment: "", auth: "", token: "", keys: "" };

function ByHand({ now, onConnected, onClose }: Props) {
  const [x, setX] = useState(empty);
  const set = (more: Partial<typeof empty>) => setX((old) => ({ ...old, ...more }));
  const add = useMutation({
    mutationFn: () => {
      const { deployment, ...rest } = x;
      return ask(
        api.POST("/api/platforms", { body: { ...rest, deployments: deployment.split(/\s+/).filter(Boolean) } }),
      );
    },
    onSuccess: (after) => {
      onConnected(after);
      onClose();
    },
  });
  const { addresses } = now;
  return (
    <form
      className="mt-3"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
    >
      <p className="mb-2 text-slate">{t`What the platform is told of Keen Magpie:`}</p>
      <div className="mb-5 flex flex-col gap-2">
        {(
          [
            [t`Tool (target link)`, addresses.tool],
            [t`Login initiation`, addresses.login],
            [t`Redirect (launch and deep linking)`, addresses.launch],
            [t`Public keys (JWKS)`, addresses.keys],
          ] as const
        ).map(([label, url]) => (
          <div key={label}>
            <p className="font-medium">{label}</p>
            <LinkField path={url} label={label} openable={false} />
          </div>
        ))}
      </div>
      <p className="mb-2 text-slate">{t`What the platform says of itself:`}</p>
      <div className="grid gap-x-4 sm:grid-cols-2">
        <Field label={t`Name`} value={x.name} required onText={(name) => set({ name })} />
        <Field label={t`Issuer (platform ID)`} value={x.issuer} required onText={(issuer) => set({ issuer })} />
        <Field label={t`Client ID`} value={x.clientId} required onText={(clientId) => set({ clientId })} />
        <Field
          label={t`Deployment IDs`}
          hint={t`Empty: the first one that is used`}
          value={x.deployment}
          onText={(deployment) => set({ deployment })}
        />
        <Field label={t`Authentication address`} value={x.auth} required onText={(auth) => set({ auth })} />
        <Field label={t`Token address`} value={x.token} required onText={(token) => set({ token })} />
        <Field label={t`Public keys (JWKS)`} value={x.keys} required onText={(keys) => set({ keys })} />
      </div>
      {add.error && <Said problem={problemOf(add.error)} />}
      <div className="mt-3 flex justify-end">
        <Button kind="main" type="submit" disabled={add.isPending}>
          {t`Connect`}
        </Button>
      </div>
    </form>
  );
}
