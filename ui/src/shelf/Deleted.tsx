import { useQuery, useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask } from "../api/client";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { kindName } from "./kinds";

const days = (at: string) => 30 - Math.floor((Date.now() - new Date(at).getTime()) / 86_400_000);

/** What was deleted and can still be brought back. */
export function Deleted({ open, onClose }: { open: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const deleted = useQuery({
    queryKey: ["shelf", "deleted"],
    enabled: open,
    queryFn: () => ask(api.GET("/api/deleted")),
  });
  const bring = async (id: string) => {
    await ask(api.POST("/api/activities/{id}/restore", { params: { path: { id } } }));
    await queries.invalidateQueries({ queryKey: ["shelf"] });
    await queries.invalidateQueries({ queryKey: ["series-list"] });
  };
  const list = deleted.data?.activities ?? [];
  return (
    <Dialog open={open} onClose={onClose} title={t`Deleted`} about={t`Deleted activities can be restored for 30 days.`}>
      {list.length === 0 && <p className="text-slate">{t`Nothing here.`}</p>}
      <ul>
        {list.map((a) => (
          <li key={a.id} className="flex items-center gap-3 border-b border-line py-2 last:border-0">
            <span className="min-w-0 flex-1">
              <span className="block truncate font-medium">{a.title || t`Untitled`}</span>
              <span className="text-slate">
                {kindName(a.kind)} · {a.deletedAt && t`${days(a.deletedAt)} days left`}
              </span>
            </span>
            <Button onClick={() => void bring(a.id)}>{t`Restore`}</Button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
