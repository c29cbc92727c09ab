import { createContext, use, useId, type ComponentProps, type ReactNode } from "react";

const Group = createContext<{ name: string; value: string; onPick: (value: string) => void } | undefined>(undefined);

type GroupProps = Omit<ComponentProps<"fieldset">, "onChange"> & {
  label: string;
  value: string;
  onPick: (value: string) => void;
};

/**
 * Of a few that are all in sight, one. They are the browser’s own: an arrow chooses as it is
 * pressed, not once the focus has followed, when a quick finger has let go of the key again.
 */
export function RadioGroup({ label, value, onPick, className = "", ...rest }: GroupProps) {
  const name = useId();
  return (
    <Group value={{ name, value, onPick }}>
      <fieldset role="radiogroup" aria-label={label} {...rest} className={`min-w-0 ${className}`} />
    </Group>
  );
}

type RadioProps = {
  value: string;
  /** What it is called, where that is not what is read on it. */
  title?: string;
  /** Said when the pointer rests on it. */
  tip?: string;
  className?: string;
  children?: ReactNode;
};

/** One of a group; what shows it is all to press on. */
export function Radio({ value, title, tip, className = "", children }: RadioProps) {
  const group = use(Group)!;
  return (
    <label className={`relative cursor-pointer has-disabled:cursor-default ${className}`} data-tip={tip}>
      <input
        type="radio"
        name={group.name}
        value={value}
        checked={value === group.value}
        onChange={() => group.onPick(value)}
        aria-label={title}
        className="absolute inset-0 m-0 size-full cursor-[inherit] appearance-none rounded-[inherit]"
      />
      {children}
    </label>
  );
}

type Props = {
  label: string;
  value: string;
  options: readonly { key: string; title: string; about?: ReactNode }[];
  onPick: (key: string) => void;
  className?: string;
};

/** Those that are sentences, each with what it means. */
export function Radios({ options, ...group }: Props) {
  return (
    <RadioGroup {...group}>
      {options.map((o) => (
        <Radio key={o.key} value={o.key} className="group flex items-start gap-2 rounded-(--radius) py-1">
          <span
            aria-hidden
            className="mt-1 grid size-4 shrink-0 place-items-center rounded-full border border-edge bg-paper group-has-checked:border-feather"
          >
            <span className="hidden size-2 rounded-full bg-feather group-has-checked:block" />
          </span>
          <span>
            <span className={o.about ? "block font-medium" : ""}>{o.title}</span>
            {o.about && <span className="text-slate">{o.about}</span>}
          </span>
        </Radio>
      ))}
    </RadioGroup>
  );
}
