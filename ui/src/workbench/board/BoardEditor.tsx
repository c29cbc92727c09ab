import { memo, useState, type ReactNode } from "react";
import { useSize } from "../../kit/useSize";
import { BoardFoot } from "./BoardFoot";
import { BoardTools } from "./BoardTools";
import { BoardViewProvider, createBoardView } from "./boardView";
import { DrawTools } from "./DrawTools";
import { Surface } from "./Surface";
import { useBoardScale } from "./useBoardScale";

type Props = {
  onRehearse: () => void;
  /** What lenses show over the board. */
  over: ReactNode;
};

/** The board being laid out, with its tray: select, move, resize, draw, rename. */
export const BoardEditor = memo(function BoardEditor({ onRehearse, over }: Props) {
  const [view] = useState(createBoardView);
  const [room, size] = useSize<HTMLDivElement>();
  const scale = useBoardScale(size);
  return (
    <BoardViewProvider value={view}>
      <div className="flex min-h-0 flex-1 gap-2">
        <DrawTools />
        <div ref={room} className="relative isolate -m-1 min-h-0 min-w-0 flex-1 overflow-auto p-1 select-none">
          {size.width > 0 && <Surface scroller={room} scale={scale} over={over} />}
        </div>
      </div>
      <BoardTools />
      <BoardFoot scroller={room} scale={scale} onRehearse={onRehearse} />
    </BoardViewProvider>
  );
});
