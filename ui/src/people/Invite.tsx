import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask, problemOf } from "../api/client";
import { LinkField } from "../kit/LinkField";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Said } from "../kit/Said";
import { Field } from "../kit/LabelledField";
import { roles } from "./roles";
import { useWays } from "./Ways";
import { Radios } from "../kit/Radios";

type Props = { workspace: string; onClose: () => void; onMade: () => unknown };

/** Makes an invitation: a link that is sent by whoever invites. */
export function Invite({ workspace, onClose, onMade }: Props) {
  const [email, setEmail] = useState("");
  const [key, setKey] = useState("designer");
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST("/api/people/invitations", {
          body: { email: email.trim() || undefined, ...roles.find((r) => r.key === key)!.may },
        }),
      ),
    onSuccess: () => void onMade(),
  });
  const made = make.data;
  const mail = useWays().data?.mail;
  return (
    <Dialog
      open
      busy={make.isPending}
      onClose={onClose}
      title={made ? (made.sent ? t`Invitation sent` : t`Invitation created`) : t`Invite to ${workspace}`}
      about={
        made
          ? made.sent
            ? t`A mail with this link is on its way to ${made.email}. It works once, for seven days, and is not shown again.`
            : made.email
              ? t`Send this link to ${made.email}. It works once, for seven days, and is not shown again.`
              : t`Send this link to one person. It works once, for seven days, and is not shown again.`
          : mail
            ? t`With an address, the invitation is sent there. You get the link as well; it works once, for seven days.`
            : t`You get a link to send. It works once, for seven days.`
      }
    >
      {made ? (
        <>
          <LinkField path={made.link!} label={t`Invitation link`} />
          <div className="mt-4 flex justify-end gap-2">
            <Button onClick={() => (make.reset(), setEmail(""))}>{t`Invite another`}</Button>
            <Button kind="main" onClick={onClose}>
              {t`Done`}
            </Button>
          </div>
        </>
      ) : (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            make.mutate();
          }}
        >
          <Field
            label={t`Email (optional)`}
            type="email"
            autoFocus
            value={email}
            onText={setEmail}
            hint={t`With an address, only that person can use the link. Without one, anyone who gets it.`}
          />
          <h3 className="mb-1 font-medium">{t`Role`}</h3>
          <Radios label={t`Role`} className="mb-4" value={key} options={roles} onPick={setKey} />
          {make.error && (
            <div className="mb-3">
              <Said problem={problemOf(make.error)} />
            </div>
          )}
          <div className="flex justify-end gap-2">
            <Button onClick={onClose}>{t`Cancel`}</Button>
            <Button kind="main" type="submit">
              {mail && email.trim() ? t`Send invitation` : t`Create link`}
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}
