import type { BatchView } from "../api/client";
import type { Say } from "./useBatch";

/** What can be said of a batch beside "done". */
export type Asked = "otherwise" | "measure" | "taste" | "note" | "finish";

export interface AskingProps {
  asked: Asked;
  view: BatchView;
  /** The step that is next. */
  place: number;
  /** The step that it is about, if it is about one. */
  about?: string | undefined;
  say: Say;
  onClose: () => void;
}
