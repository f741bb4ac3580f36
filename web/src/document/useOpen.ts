import { useEffect } from "react";
import { useTitle } from "../ui/useTitle";
import { useSaveWord } from "./saveWord";
import type { Saving } from "./saving";

const words: Record<Saving<unknown>["phase"], string> = {
  saved: "saved",
  due: "saving",
  writing: "saving",
  waiting: "not saved yet",
  refused: "not saved",
  conflict: "changed elsewhere",
};

interface Opened {
  undo: () => void;
  redo: () => void;
  /** Sends along what isn't saved yet when the window goes. */
  leave: () => void;
}

/** What every open document does to its window: its title, how saving goes, the keys of undo, leaving. */
export function useOpen(editor: Opened, name: string, phase: Saving<unknown>["phase"]) {
  useTitle(name);
  const say = useSaveWord((s) => s.say);
  useEffect(() => {
    say(words[phase]);
    return () => say("");
  }, [say, phase]);
  useEffect(() => {
    window.addEventListener("pagehide", editor.leave);
    return () => window.removeEventListener("pagehide", editor.leave);
  }, [editor]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = (event.target as HTMLElement).closest?.("input, textarea, [contenteditable]");
      if (typing || !(event.ctrlKey || event.metaKey)) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) editor.undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) editor.redo();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [editor]);
}
