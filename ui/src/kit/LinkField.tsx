import { useState } from "react";
import { Check, Copy } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Button } from "./Button";
import { copyText } from "./copyText";
import { address } from "../api/address";

/** A path of the application, or a whole address; what is of no use in a browser is only copied. */
type Props = { path: string; label?: string; openable?: boolean };

/** A link to be copied or opened. */
export function LinkField({ path, label = t`Link for learners`, openable = true }: Props) {
  const url = /^https?:/.test(path) ? path : new URL(address(path), location.origin).href;
  const [copied, setCopied] = useState(false);
  return (
    <div className="flex items-center gap-2">
      <input
        readOnly
        aria-label={label}
        value={url}
        onFocus={(e) => e.target.select()}
        className="h-8 min-w-0 flex-1 rounded-(--radius) border border-edge bg-shade px-2"
      />
      <Button
        onClick={async () => {
          setCopied(await copyText(url));
        }}
      >
        {copied ? <Check size={16} aria-hidden /> : <Copy size={16} aria-hidden />} {copied ? t`Copied` : t`Copy`}
      </Button>
      {openable && (
        <a href={url} target="_blank" rel="noreferrer" className="font-medium text-feather underline">
          {t`Open`}
        </a>
      )}
    </div>
  );
}
