import { useUtter, type Utterance } from "./queries";
import { newKey } from "../api/newKey";

/** Says a word at a table, under a key of its own. */
export function useSay(id: string) {
  const utter = useUtter(id);
  return {
    say: (word: Utterance, then?: () => void) =>
      utter.mutate({ word, key: newKey() }, then ? { onSuccess: then } : {}),
    wrong: utter.error?.message,
    waits: utter.isPending,
  };
}
