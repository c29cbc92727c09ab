import { useState } from "react";
import { useQuery } from "@tanstack/react-query";
import { QRCodeSVG } from "qrcode.react";
import { Check, Copy, Download } from "lucide-react";
import { plural, t } from "@lingui/core/macro";
import { address } from "../api/address";
import { api, ask, problemOf } from "../api/client";
import type { Problem, Release } from "../api/types";
import { Button } from "../kit/Button";
import { copyText } from "../kit/copyText";
import { Dialog } from "../kit/Dialog";
import { LinkField } from "../kit/LinkField";
import { Said } from "../kit/Said";
import { FrameOrigins } from "./FrameOrigins";

type Props = { release: Release; title: string; onClose: () => void };

/** Each way for a release to reach its learners, with where the key is and how results come back. */
export function GetItOut({ release, title, onClose }: Props) {
  const url = new URL(address(release.link), location.origin).href;
  const packages = useQuery({
    queryKey: ["packages", release.id],
    queryFn: () => ask(api.GET("/api/releases/{id}/packages", { params: { path: { id: release.id } } })),
  });
  const [problem, setProblem] = useState<Problem>();
  const tryThere = async (as: "scorm12" | "scorm2004" | "lti") => {
    // Opened at the press, since a window that opens later is kept back.
    const there = window.open("about:blank", "_blank");
    try {
      setProblem(undefined);
      const { id } = release;
      const { url } = await ask(
        as === "lti"
          ? api.POST("/api/releases/{id}/college", { params: { path: { id } } })
          : api.POST("/api/releases/{id}/packages/{as}/college", { params: { path: { id, as } } }),
      );
      there?.location.assign(url);
    } catch (error) {
      there?.close();
      setProblem(problemOf(error));
    }
  };
  const steps = packages.data?.steps ?? 0;
  return (
    <Dialog open wide onClose={onClose} title={t`Get it out`} about={t`Release ${release.number} of “${title}”`}>
      <div className="flex flex-col gap-6">
        <Way
          title={t`Link and QR code`}
          says={t`The answer key stays on this server. Results appear here, as learners play.`}
        >
          <div className="flex flex-wrap items-center gap-4">
            <div className="min-w-64 flex-1" data-first>
              <LinkField path={release.link} />
            </div>
            <QRCodeSVG
              value={url}
              size={104}
              marginSize={2}
              title={t`QR code of the link`}
              className="border border-line"
            />
          </div>
        </Way>
        <Way
          title={t`Embedded in a web page`}
          says={t`The answer key stays on this server. Results appear here; the page around it hears progress and result.`}
        >
          <Snippet url={url} title={title} />
          <FrameOrigins />
        </Way>
        <Way
          title={t`LTI 1.3`}
          says={t`The answer key stays on this server. Teachers choose the activity in their course; scores go to the platform’s gradebook within seconds, and results appear here too.`}
        >
          {packages.data?.platforms ? (
            <>
              <LinkField path={url} label={t`Address for a link in a course`} openable={false} />
              <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
                <a href={address("/platforms")} className="font-medium text-feather underline">
                  {t`Connect a platform`}
                </a>
                {packages.data.college && (
                  <Button onClick={() => void tryThere("lti")}>{t`Try it in Tarnbridge College`}</Button>
                )}
              </div>
            </>
          ) : (
            packages.data && (
              <p className="text-slate">
                {t`Platforms can’t be connected here yet: whoever runs Keen Magpie has to give it a secret file first.`}
              </p>
            )
          )}
        </Way>
        {problem && <Said problem={problem} />}
        {packages.isError && <Said problem={problemOf(packages.error)} />}
        {packages.data?.packages.map((p) => {
          const way = ways[p.as];
          return (
            <Way key={p.as} title={way.title} says={way.says}>
              {p.losses.length > 0 && (
                <details>
                  <summary className="cursor-pointer text-slate">
                    {plural(p.losses.length, { one: "# thing it can’t carry", other: "# things it can’t carry" })}
                  </summary>
                  <ul className="mt-1 list-disc pl-6">
                    {p.losses.map((l) => (
                      <li key={`${l.activity} ${l.part} ${l.code}`}>
                        {l.activity && <span className="text-slate">{l.activity}: </span>}
                        {l.message}
                      </li>
                    ))}
                  </ul>
                </details>
              )}
              <div className="flex flex-wrap gap-2">
                <Fetch release={release} as={p.as} label={way.button} />
                {packages.data.college && (p.as === "scorm12" || p.as === "scorm2004" || p.as === "cmi5") && (
                  <Button onClick={() => void tryThere(p.as as "scorm12")}>{t`Try it in Tarnbridge College`}</Button>
                )}
                {p.as === "cmi5" && packages.data.platforms && (
                  <Fetch release={release} as="cmi5-hosted" label={t`Download without the key: opens here`} />
                )}
                {steps > 1 && (p.as.startsWith("scorm") || p.as === "cmi5") && (
                  <Fetch release={release} as={p.as} each label={t`Download, one object per step (${steps})`} />
                )}
              </div>
            </Way>
          );
        })}
      </div>
    </Dialog>
  );
}

const inside = t`The answer key is in the package, so that it can judge on its own.`;
const ways = {
  scorm12: {
    title: t`SCORM 1.2`,
    button: t`Download for SCORM 1.2`,
    says: t`${inside} The learning platform gets status, score, time and answers, and keeps where learners left off.`,
  },
  scorm2004: {
    title: t`SCORM 2004, 4th edition`,
    button: t`Download for SCORM 2004`,
    says: t`${inside} The learning platform gets completion, success, score, progress, time and answers, and keeps where learners left off.`,
  },
  cmi5: {
    title: "cmi5",
    button: t`Download for cmi5`,
    says: t`${inside} The learning platform’s record store gets a statement for each answer, completion, success and score, and keeps where learners left off.`,
  },
  web: {
    title: t`Web page in a zip`,
    button: t`Download web page`,
    says: t`${inside} Put it on any web server, or open it from a folder. No results come back.`,
  },
  qti: {
    title: t`QTI 3.0`,
    button: t`Download for QTI 3.0`,
    says: t`For other assessment tools, which judge by the answer key in it and keep the results. Keen Magpie can import it again without loss.`,
  },
  bundle: {
    title: t`Bundle`,
    button: t`Download bundle`,
    says: t`The content alone, with its media and answer key, for another workspace.`,
  },
};

type WayProps = { title: string; says: string; children: React.ReactNode };

function Way({ title, says, children }: WayProps) {
  return (
    <section aria-label={title} className="flex flex-col gap-2">
      <div>
        <h3 className="font-semibold">{title}</h3>
        <p className="text-slate">{says}</p>
      </div>
      {children}
    </section>
  );
}

type FetchProps = { release: Release; as: string; each?: boolean; label: string };

/** A download, as a link: the browser shows how far it is. */
function Fetch({ release, as, each, label }: FetchProps) {
  const to = address(
    as === "qti" || as === "cmi5-hosted"
      ? `/api/releases/${release.id}/${as === "qti" ? "qti" : "cmi5"}`
      : `/api/releases/${release.id}/packages/${as}${each ? "?eachStep=true" : ""}`,
  );
  return (
    <a
      href={to}
      download
      className="inline-flex h-8 items-center gap-2 rounded-(--radius) border border-edge bg-paper px-3 font-medium hover:bg-shade"
    >
      <Download size={16} aria-hidden /> {label}
    </a>
  );
}

/** What is pasted into a page: a frame, and a script by which it is as high as it has to be. */
function snippet(url: string, title: string): string {
  const escaped = title.replace(/&/g, "&amp;").replace(/"/g, "&quot;").replace(/</g, "&lt;");
  return `<iframe src="${url}" title="${escaped}" width="960" height="640" style="width:100%;border:0"></iframe>
<script>
addEventListener("message", (e) => {
  const frame = [...document.querySelectorAll("iframe")].find((f) => f.contentWindow === e.source);
  if (frame && e.data?.type === "magpie:resize" && e.origin === "${new URL(url).origin}") frame.height = e.data.height;
});
</script>`;
}

function Snippet({ url, title }: { url: string; title: string }) {
  const [copied, setCopied] = useState(false);
  const text = snippet(url, title);
  return (
    <div className="flex items-start gap-2">
      <textarea
        readOnly
        aria-label={t`Embed code`}
        value={text}
        rows={4}
        onFocus={(e) => e.target.select()}
        className="min-w-0 flex-1 resize-none rounded-(--radius) border border-edge bg-shade px-2 py-1 font-mono text-[12px]"
      />
      <Button onClick={async () => setCopied(await copyText(text))}>
        {copied ? <Check size={16} aria-hidden /> : <Copy size={16} aria-hidden />} {copied ? t`Copied` : t`Copy code`}
      </Button>
    </div>
  );
}
