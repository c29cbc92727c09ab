import { ChevronDown, Download } from "lucide-react";
import { t } from "@lingui/core/macro";
import { Button } from "../kit/Button";
import { Menu, MenuItem } from "../kit/Menu";
import { address } from "../api/address";

const series = [["runs", t`Runs`]] as const;
const activity = [
  ["sittings", t`Sittings`],
  ["moves", t`Moves`],
  ["placements", t`Placements`],
] as const;

/** What is kept of a release's sittings, or of a series' runs, as files. Each download is written into the log. */
export function Downloads({ release, step, runs }: { release: string; step?: number; runs?: boolean }) {
  const kinds = runs ? series : activity;
  return (
    <Menu
      align="end"
      trigger={
        <Button>
          <Download size={16} aria-hidden /> {t`Download`} <ChevronDown size={14} aria-hidden />
        </Button>
      }
    >
      {kinds.flatMap(([what, title]) =>
        [
          ["csv", "CSV"],
          ["jsonl", t`JSON lines`],
        ].map(([format, name]) => (
          <MenuItem key={what + format} asChild className="block">
            <a href={address(`/api/releases/${release}/${what}.${format}${step ? `?step=${step}` : ""}`)} download>
              {title}, {name}
            </a>
          </MenuItem>
        )),
      )}
    </Menu>
  );
}
