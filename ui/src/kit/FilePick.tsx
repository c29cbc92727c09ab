import type { ReactNode } from "react";

type Props = {
  /** What the field is called; what it says is inside. */
  label: string;
  accept: string;
  multiple?: boolean;
  onFiles: (files: File[]) => void;
  children: ReactNode;
};

/** A button that asks for files. */
export function FilePick({ label, accept, multiple, onFiles, children }: Props) {
  return (
    <label className="inline-flex cursor-pointer items-center gap-2 self-start rounded-(--radius) border border-line px-3 py-1 font-medium hover:bg-shade has-focus-visible:outline-2 has-focus-visible:outline-feather">
      {children}
      <input
        type="file"
        accept={accept}
        multiple={multiple}
        aria-label={label}
        className="sr-only"
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = ""; // the same file can be chosen again
          if (files.length > 0) onFiles(files);
        }}
      />
    </label>
  );
}
