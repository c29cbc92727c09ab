import { memo } from "react";
import { Toolbar } from "radix-ui";
import { ArrowUpRight, Circle, MousePointer2, Pentagon, Slash, Spline, Square, Type, Wand2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import { named } from "../../kit/tip";
import { takeTool } from "../model/acts";
import { useDraft, useDraftStore } from "../model/draft";

type Tool = { tool: string; title: string; icon: typeof Square; keys?: string };

/** What the pointer can do on the board. */
export const tools: Tool[] = [
  { tool: "select", title: t`Select and move`, icon: MousePointer2 },
  { tool: "rect", title: t`Draw a target`, icon: Square },
  { tool: "ellipse", title: t`Draw a round target`, icon: Circle },
  { tool: "polygon", title: t`Draw a polygon target`, icon: Pentagon },
  { tool: "spot", title: t`Trace a spot in a picture`, icon: Wand2 },
  { tool: "text", title: t`Add text`, icon: Type },
  { tool: "box", title: t`Draw a box`, icon: Square },
  { tool: "disc", title: t`Draw an ellipse`, icon: Circle },
  { tool: "line", title: t`Draw a line`, icon: Slash },
  { tool: "arrow", title: t`Draw an arrow`, icon: ArrowUpRight },
  { tool: "pointer", title: t`Add a callout line from a target`, icon: Spline },
];

export const toolSays: Record<string, string> = {
  rect: t`Drag to draw a target; click for the default size. Escape when done.`,
  ellipse: t`Drag to draw a round target. Escape when done.`,
  polygon: t`Click to add corners. Enter closes the shape, Backspace removes the last corner.`,
  spot: t`Click areas of one colour in a picture: each becomes a target. Escape when done.`,
  text: t`Drag to draw a text box. Escape when done.`,
  box: t`Drag to draw a box. Escape when done.`,
  disc: t`Drag to draw an ellipse. Escape when done.`,
  line: t`Drag to draw a line. Escape when done.`,
  arrow: t`Drag to draw an arrow. Escape when done.`,
  pointer: t`Drag from a target to the point it refers to, or select targets first and click the point of each in turn. Escape when done.`,
};

/** What is said of a tool that is led by keys. */
export const crosshairSays = (tool: string, begun: boolean) =>
  ({
    polygon: t`Arrow keys; Space: a corner; Enter: done`,
    spot: t`Arrow keys, then Space to trace`,
    pointer: t`Arrow keys, then Space to draw`,
  })[tool] ?? (begun ? t`Arrow keys, then Space to end` : t`Arrow keys, then Space to begin`);

/** Targets are drawn sunk, scenery flat: the buttons show which is which. */
export const DrawTools = memo(function DrawTools() {
  const store = useDraftStore();
  const current = useDraft((s) => s.tool);
  const button = ({ tool, title, icon: Icon }: Tool) => (
    <Toolbar.Button
      key={tool}
      {...named(title)}
      aria-pressed={current === tool}
      // Pressed by a key, it is led by keys.
      onClick={(e) => takeTool(store, current === tool ? "select" : tool, e.detail === 0)}
      className={`grid size-8 place-items-center rounded-(--radius) ${
        current === tool ? "bg-feather text-on-feather" : "text-slate hover:bg-shade hover:text-ink"
      }`}
    >
      <Icon
        size={17}
        aria-hidden
        {...(tool === "box" || tool === "disc" ? { fill: "currentColor", fillOpacity: 0.25 } : {})}
      />
    </Toolbar.Button>
  );
  const line = <span className="my-0.5 h-px w-6 self-center bg-line" />;
  return (
    <Toolbar.Root
      aria-label={t`Draw`}
      orientation="vertical"
      className="flex shrink-0 flex-col gap-0.5 self-start rounded-(--radius) border border-line bg-paper p-0.5"
    >
      {button(tools[0]!)}
      {line}
      {tools.slice(1, 5).map(button)}
      {line}
      {tools.slice(5).map(button)}
    </Toolbar.Root>
  );
});
