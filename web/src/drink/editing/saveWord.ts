import { create } from "zustand";

/** How the open drink stands with the shelf, for the frame to show. */
export const useSaveWord = create<{ word: string; say: (word: string) => void }>((set) => ({
  word: "",
  say: (word) => set({ word }),
}));
