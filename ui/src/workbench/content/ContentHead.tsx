import { t } from "@lingui/core/macro";
import { columns } from "./columns";

/** The columns' heads, which stay in view. */
export function ContentHead({ template }: { template: string }) {
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="sticky top-0 z-20 grid w-max border-b border-line bg-shade text-[13px] font-semibold text-slate"
      style={{ gridTemplateColumns: template }}
    >
      <span role="columnheader" id="content-head--1" className="sticky left-0 z-10 bg-shade px-4 py-1.5">
        {t`Name`}
      </span>
      {columns.map((c, i) => (
        <span
          key={c.key}
          id={`content-head-${i}`}
          role="columnheader"
          className={`scroll-ml-[160px] truncate px-2 py-1.5 ${c.number ? "text-right" : ""}`}
        >
          {c.title}
        </span>
      ))}
    </div>
  );
}
