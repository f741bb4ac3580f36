import { useUtter, type Utterance } from "./queries";

/** Says a word at a table, under a key of its own. */
export function useSay(id: string) {
  const utter = useUtter(id);
  return {
    say: (word: Utterance, then?: () => void) =>
      utter.mutate({ word, key: crypto.randomUUID() }, then ? { onSuccess: then } : {}),
    wrong: utter.error?.message,
    waits: utter.isPending,
  };
}
