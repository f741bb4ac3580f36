import { create } from "zustand";

/** Whether the open document is saved, for the frame to show. */
export const useSaveWord = create<{ word: string; say: (word: string) => void }>((set) => ({
  word: "",
  say: (word) => set({ word }),
}));
