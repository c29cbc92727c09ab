import { useState } from "react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import {
  startAuthentication,
  startRegistration,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
} from "@simplewebauthn/browser";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import type { Me } from "../api/types";
import { Button } from "../kit/Button";
import { Said } from "../kit/Said";
import { useWays } from "./Ways";
import { day } from "../words/figures";

/** Whoever closes the browser's own dialog has said no, and needs no second word. */
const gaveUp = (error: unknown) =>
  error instanceof Error && (error.name === "NotAllowedError" || error.name === "AbortError");

/** One's own passkeys: what there is of them, and another. */
export function Passkeys({ section }: { section: string }) {
  const queries = useQueryClient();
  const ways = useWays();
  const list = useQuery({ queryKey: ["passkeys"], queryFn: () => ask(api.GET("/api/me/passkeys")) });
  const again = () => queries.invalidateQueries({ queryKey: ["passkeys"] });
  const add = useMutation({
    mutationFn: async () => {
      const { options } = await ask(api.POST("/api/me/passkeys/options"));
      const credential = await startRegistration({ optionsJSON: options as PublicKeyCredentialCreationOptionsJSON });
      await ask(api.POST("/api/me/passkeys", { body: { credential } }));
    },
    onSuccess: again,
  });
  const drop = useMutation({
    mutationFn: (id: string) => ask(api.DELETE("/api/me/passkeys/{passkey}", { params: { path: { passkey: id } } })),
    onSuccess: again,
  });
  if (!ways.data?.passkeys) return null;
  const failed = add.error && !gaveUp(add.error) ? add.error : drop.error;
  return (
    <section aria-label={t`Passkeys`} className={section}>
      <h2 className="mb-1 text-base">{t`Passkeys`}</h2>
      <p className="mb-2 text-slate">{t`Sign in with your fingerprint, face or device PIN instead of a password.`}</p>
      <ul className="mb-3">
        {list.data?.passkeys.map((p) => (
          <li key={p.id} className="flex items-center gap-3 border-b border-line py-2">
            <span className="min-w-0 flex-1">
              <span className="block font-medium">{p.name}</span>
              <span className="block text-slate">
                {p.usedAt
                  ? t`added ${day(p.madeAt)}, last used ${day(p.usedAt)}`
                  : t`added ${day(p.madeAt)}, not used yet`}
              </span>
            </span>
            <Button disabled={drop.isPending} aria-label={t`Remove ${p.name}`} onClick={() => drop.mutate(p.id)}>
              {t`Remove`}
            </Button>
          </li>
        ))}
      </ul>
      {failed && (
        <div className="mb-3">
          <Said problem={problemOf(failed)} />
        </div>
      )}
      <Button disabled={add.isPending} onClick={() => add.mutate()}>
        {t`Add a passkey`}
      </Button>
    </section>
  );
}

/** Signs in with a passkey of this device. */
export function ByPasskey({ onDone }: { onDone: (me: Me) => void }) {
  const [problem, setProblem] = useState<unknown>();
  const signIn = async () => {
    setProblem(undefined);
    try {
      const { options } = await ask(api.POST("/api/session/passkey/options"));
      const credential = await startAuthentication({ optionsJSON: options as PublicKeyCredentialRequestOptionsJSON });
      onDone(await ask(api.POST("/api/session/passkey", { body: { credential } })));
    } catch (error) {
      if (!gaveUp(error)) setProblem(error);
    }
  };
  return (
    <>
      {problem !== undefined && (
        <div className="mb-4">
          <Said problem={problemOf(problem)} />
        </div>
      )}
      <button
        type="button"
        onClick={() => void signIn()}
        className="mb-2 flex h-10 w-full items-center justify-center rounded-(--radius) border border-edge bg-paper font-medium hover:bg-shade"
      >
        {t`Sign in with a passkey`}
      </button>
    </>
  );
}
