import type { ComponentProps } from "react";
import { PlayBoard } from "../../player/PlayBoard";
import { mediaURL } from "../../board/mediaURL";
import { useSize } from "../../kit/useSize";

type Props = Omit<ComponentProps<typeof PlayBoard>, "mediaURL" | "room" | "beckon">;

const none = () => Promise.resolve({ targets: [], opens: [] });

/** The live board in the room that the workbench has for it. */
export function LiveBoard(props: Props) {
  const [room, size] = useSize<HTMLDivElement>();
  return (
    <div ref={room} className="min-h-0 flex-1 overflow-auto p-3">
      {size.width > 0 && (
        <PlayBoard
          {...props}
          beckon={none}
          mediaURL={mediaURL}
          room={{ width: size.width - 26, height: size.height - 26 }}
        />
      )}
    </div>
  );
}
