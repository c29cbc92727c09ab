import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { api, ask, problemOf } from "../api/client";
import { Button } from "../kit/Button";
import { Field } from "../kit/LabelledField";
import { Said } from "../kit/Said";

/** Has a link for a new password sent. What is said is the same whether there is an account or not. */
export function Forgotten({ email: typed, onBack }: { email: string; onBack: () => void }) {
  const [email, setEmail] = useState(typed);
  const send = useMutation({ mutationFn: () => ask(api.POST("/api/session/forgotten", { body: { email } })) });
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        send.mutate();
      }}
    >
      <h2 className="mb-2 text-lg">{t`New password`}</h2>
      {send.isSuccess ? (
        <p role="status" className="mb-4">
          <Trans>
            If <b>{email}</b> has an account here, a link is on its way. It works once, for an hour.
          </Trans>
        </p>
      ) : (
        <Field
          label={t`Email`}
          type="email"
          autoFocus
          required
          autoComplete="username"
          value={email}
          onText={setEmail}
          hint={t`A link to choose a new password is sent there.`}
        />
      )}
      {send.error && (
        <div className="mb-4">
          <Said problem={problemOf(send.error)} />
        </div>
      )}
      <div className="flex gap-2">
        <Button onClick={onBack}>{t`Back`}</Button>
        {!send.isSuccess && (
          <Button kind="main" type="submit" disabled={send.isPending}>
            {t`Send link`}
          </Button>
        )}
      </div>
    </form>
  );
}
