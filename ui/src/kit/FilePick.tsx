import { useRef, type ReactNode } from "react";
import { Button } from "./Button";

type Props = {
  /** What the files are for; what the button says is inside. */
  label: string;
  accept: string;
  multiple?: boolean;
  className?: string;
  onFiles: (files: File[]) => void;
  children: ReactNode;
};

/** A button that asks for files. */
export function FilePick({ label, accept, multiple, className, onFiles, children }: Props) {
  const field = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button className={className} aria-description={label} onClick={() => field.current?.click()}>
        {children}
      </Button>
      <input
        ref={field}
        type="file"
        hidden
        accept={accept}
        multiple={multiple}
        aria-label={label}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = ""; // the same file can be chosen again
          if (files.length > 0) onFiles(files);
        }}
      />
    </>
  );
}
