import { ChevronDown, Download } from "lucide-react";
import { Button } from "../shared/Button";
import { Menu, MenuItem } from "../shared/Menu";

const kinds = [
  ["sittings", "Sittings"],
  ["moves", "Moves"],
  ["placements", "Placements"],
] as const;

/** What is kept of a release's sittings, as files. Each download is written into the log. */
export function Downloads({ release, step }: { release: string; step?: number }) {
  return (
    <Menu
      align="end"
      trigger={
        <Button>
          <Download size={16} aria-hidden /> Download <ChevronDown size={14} aria-hidden />
        </Button>
      }
    >
      {kinds.flatMap(([what, title]) =>
        [
          ["csv", "CSV"],
          ["jsonl", "JSON lines"],
        ].map(([format, name]) => (
          <MenuItem key={what + format} asChild className="block">
            <a href={`/api/releases/${release}/${what}.${format}${step ? `?step=${step}` : ""}`} download>
              {title}, {name}
            </a>
          </MenuItem>
        )),
      )}
    </Menu>
  );
}
