import type { ComponentProps } from "react";
import { Toolbar } from "radix-ui";
import { Button } from "./Button";

/** A button of a toolbar: the arrow keys go from one to the next. */
export function ToolButton(props: ComponentProps<typeof Button>) {
  return (
    <Toolbar.Button asChild>
      <Button {...props} />
    </Toolbar.Button>
  );
}
